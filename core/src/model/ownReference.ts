import { Type, type Static } from 'typebox';
import { Day, Id, Note, Unit, strictObject } from './common.ts';

/** A reference of the maker's own on the shelf: a mass, a meter's fixed point, a bottle of standard. */
export const NewOwnReference = strictObject({
  title: Type.String({ minLength: 1, maxLength: 80 }),
  value: Type.Number(),
  /** Expanded uncertainty (k = 2), in the same unit. */
  uncertainty: Type.Number({ exclusiveMinimum: 0 }),
  unit: Unit,
  checkedOn: Day,
  /** Months after which it must be checked again. */
  goodForMonths: Type.Integer({ minimum: 1, maximum: 240 }),
  note: Note,
});
export type NewOwnReference = Static<typeof NewOwnReference>;

export const OwnReference = strictObject({
  id: Id,
  version: Type.Integer({ minimum: 1 }),
  ...NewOwnReference.properties,
});
export type OwnReference = Static<typeof OwnReference>;
