import { Type, type Static } from 'typebox';
import { Id, Unit, nullable, oneOf, strictObject } from './common.ts';

const By = nullable(
  oneOf(['link', 'true-up', 'check point', 'line', 'pick', 'shelf', 'study', 'new study'] as const),
);

/** What is shown of a gadget's brief, what is weakest, and what to do next. */
export const ProofAnswer = strictObject({
  shown: Type.Integer(),
  of: Type.Integer(),
  failed: Type.Boolean(),
  sentence: Type.String(),
  next: nullable(
    strictObject({
      by: By,
      claimId: Type.String(),
      text: Type.String(),
      channelId: Id,
      settles: Type.Integer(),
    }),
  ),
  channels: Type.Array(
    strictObject({
      channelId: Id,
      name: Type.String(),
      /** Why nothing can be said of it; null where something can. */
      problem: nullable(Type.String()),
      claims: Type.Array(
        strictObject({
          id: Type.String(),
          title: Type.String(),
          state: oneOf(['pass', 'fail', 'not shown'] as const),
          sentence: Type.String(),
          next: Type.String(),
          by: By,
        }),
      ),
      budget: nullable(
        strictObject({
          /** Expanded uncertainty of what is known, k for 95 %, and where it is largest; in the unit of the reading. */
          expanded: Type.Number(),
          at: Type.Number(),
          unit: Unit,
          /** What nobody stated or measured: it is not in it. */
          unknown: Type.Array(Type.String()),
        }),
      ),
    }),
  ),
});
export type ProofAnswer = Static<typeof ProofAnswer>;
