import { csvField } from './csvField.ts';
import type { UnitId } from '../units/index.ts';

export interface CsvColumn {
  readonly name: string;
  readonly unit: UnitId;
  /** Raw columns are stored on import; converted ones can be made again and are ignored. */
  readonly raw: boolean;
}

/** "p1 raw [count]" or "Probe 1 [degC]": name, kind and unit in one heading, so a spreadsheet keeps them together. */
export function csvHeading(column: CsvColumn): string {
  return csvField(`${column.name}${column.raw ? ' raw' : ''} [${column.unit}]`);
}

export function csvHeader(columns: readonly CsvColumn[]): string {
  return ['time [s]', ...columns.map(csvHeading)].join(',');
}

/** One row; numbers in the shortest form that reads back as the same double, a bad sample as an empty field. */
export function csvRow(timeS: number, values: readonly number[]): string {
  return [timeS, ...values].map((v) => (Number.isFinite(v) ? String(v) : '')).join(',');
}
