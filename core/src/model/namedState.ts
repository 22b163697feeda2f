import { Type, type Static } from 'typebox';
import { Unit, nullable, strictObject } from './common.ts';

/** A word that stands on the display in the place of a number: "stopped" at 0 rpm, "empty slot" about 0 V. */
export const NamedState = strictObject({
  /** As the display writes it. */
  name: Type.String({ minLength: 1, maxLength: 20, pattern: '\\S' }),
  unit: Unit,
  /** Ends of the readings that it names, which belong to it; null for all that lies beyond the other. */
  from: nullable(Type.Number()),
  to: nullable(Type.Number()),
  /** Whether an open end takes in what a converter cut off: else a shorted sensor would pass for one that is "hot". */
  cutOff: Type.Optional(Type.Boolean()),
});
export type NamedState = Static<typeof NamedState>;
