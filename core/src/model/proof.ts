import { Type, type Static } from 'typebox';
import { Id, Unit, nullable, oneOf, strictObject } from './common.ts';

const By = nullable(
  oneOf(['link', 'true-up', 'check point', 'line', 'pick', 'shelf', 'study', 'new study'] as const),
);

const Summary = {
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
};

/** Where the error of a shown reading comes from; in the unit of the reading where nothing else is said. */
export const BudgetAnswer = strictObject({
  /** Expanded uncertainty of what is known, k for 95 %, and where it is largest. */
  expanded: Type.Number(),
  at: Type.Number(),
  unit: Unit,
  /** Whether it is that of what came just now, where no place of the range can be told. */
  isNow: Type.Boolean(),
  coverageFactor: Type.Number(),
  /** Effective degrees of freedom; null where they are without limit. */
  degreesOfFreedom: nullable(Type.Number()),
  /** What nobody stated or measured: it is not in it. */
  unknown: Type.Array(Type.String()),
  lines: Type.Array(
    strictObject({
      title: Type.String(),
      source: Type.String(),
      /** Half-width, or a standard deviation where it is normal, in its own unit; null where it is not known. */
      halfWidth: nullable(Type.Number()),
      unit: Type.String(),
      distribution: Type.String(),
      /** Standard uncertainty that it gives to the reading, and its share of the variance, 0 to 1; null as well. */
      gives: nullable(Type.Number()),
      share: nullable(Type.Number()),
    }),
  ),
});
export type BudgetAnswer = Static<typeof BudgetAnswer>;

const ClaimAnswer = strictObject({
  id: Type.String(),
  title: Type.String(),
  state: oneOf(['pass', 'fail', 'not shown'] as const),
  sentence: Type.String(),
  next: Type.String(),
  by: By,
});
export type ClaimAnswer = Static<typeof ClaimAnswer>;

export const ProofOfChannel = strictObject({
  channelId: Id,
  name: Type.String(),
  /** Why nothing can be said of it; null where something can. */
  problem: nullable(Type.String()),
  /** Of its own claims alone. */
  own: strictObject(Summary),
  /** By their weight. */
  claims: Type.Array(ClaimAnswer),
  /** The point kept out of the fit that reads worst, in the unit of the reading; null without one. */
  worstCheck: nullable(
    strictObject({
      error: Type.Number(),
      /** Expanded uncertainty of the comparison, k = 2. */
      uncertainty: Type.Number(),
      /** What is allowed. */
      limit: Type.Number(),
    }),
  ),
  budget: nullable(BudgetAnswer),
  /** Why it has no budget; null where it has one, or nothing can be said of it at all. */
  noBudget: nullable(Type.String()),
});
export type ProofOfChannel = Static<typeof ProofOfChannel>;

/** What is shown of a gadget's brief, what is weakest, and what to do next. */
export const ProofAnswer = strictObject({
  ...Summary,
  channels: Type.Array(ProofOfChannel),
});
export type ProofAnswer = Static<typeof ProofAnswer>;
