import type { Block } from '../stage/contract.ts';

/** Raw rows: column by column, NaN where a column has none. */
export interface RawRows {
  readonly length: number;
  readonly times: Float64Array;
  readonly columns: readonly Float64Array[];
}

/** Rows as the raw columns of a line, where they lie. @param from their places among the columns of the rows */
export const lanesFrom = (rows: RawRows, from: readonly number[]): Block => ({
  length: rows.length,
  times: rows.times,
  lanes: from.map((at) => ({ values: rows.columns[at]!, reasons: noReasons(rows.length) })),
});

/** All good: never written to, so that one will do for all. */
let good = new Uint8Array(4096);
function noReasons(length: number): Uint8Array {
  if (good.length < length) good = new Uint8Array(length);
  return good.length === length ? good : good.subarray(0, length);
}
