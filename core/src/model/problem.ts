import { Type, type Static } from 'typebox';
import { strictObject } from './common.ts';

/** RFC 9457 problem details with a code, the field at fault and the way out. */
export const Problem = strictObject({
  type: Type.String(),
  title: Type.String(),
  status: Type.Integer(),
  detail: Type.String(),
  code: Type.String(),
  field: Type.Optional(Type.String()),
  wayOut: Type.String(),
});
export type Problem = Static<typeof Problem>;
