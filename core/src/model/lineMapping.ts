import { Type, type Static } from 'typebox';
import { Name, nullable, oneOf, strictObject } from './common.ts';

export const LINE_FORMATS = ['separated', 'pairs', 'json', 'sentences'] as const;
export type LineFormat = (typeof LINE_FORMATS)[number];

/** How a field is called in a line: its name, or its place from 1 where fields have none. */
const FieldName = Type.String({ minLength: 1, maxLength: 80 });

export const TIME_UNITS = ['s', 'ms', 'us', 'date'] as const;
export type TimeUnit = (typeof TIME_UNITS)[number];

/** What stands where in the lines of text that a gadget sends. */
export const LineMapping = strictObject({
  format: oneOf(LINE_FORMATS),
  /** Between fields of separated lines. */
  delimiter: oneOf([',', ';', '\t', '|', ' '] as const),
  decimal: oneOf(['.', ','] as const),
  /** The gadget's own time; null when a reading counts from when it arrives. */
  time: nullable(strictObject({ field: FieldName, unit: oneOf(TIME_UNITS) })),
  /** A number that grows by one with each reading, by which lost and doubled ones are told. */
  sequence: nullable(FieldName),
  /** Where each raw column of the gadget comes from; columns left out stay empty. */
  columns: Type.Array(strictObject({ column: Name, field: FieldName }), { minItems: 1, maxItems: 64 }),
});
export type LineMapping = Static<typeof LineMapping>;
