import type { RowIssue } from '../model/recording.ts';
import type { UnitId } from '../units/index.ts';

export interface TableColumn {
  readonly name: string;
  /** Null when the file does not say or says one that is not known. */
  readonly unit: UnitId | null;
}

/** Where a reader puts what it finds. Bad rows are data: a numbered issue, never a silent repair and never an exception. */
export interface TableSink {
  /** Once, before the first row; again when a format brings in a new column later. */
  columns(columns: readonly TableColumn[]): void;
  /**
   * @param timeS seconds, absolute or since the start as the file has it
   * @param values one for each column; NaN is missing. Used again for the next row: copy what is to be kept.
   */
  row(timeS: number, values: ArrayLike<number>): void;
  issue(issue: RowIssue): void;
  /** What was taken for granted of the whole file, such as the unit of its times. */
  remark?(text: string): void;
}

/** A reader is fed pieces of any size, and takes what it needs of each: bytes may be overwritten afterwards. */
export interface TableReader<Piece = string> {
  push(piece: Piece): void;
  finish(): void;
}

/** Collects everything, for small files and tests. */
export function collectTable(): TableSink & {
  readonly found: { columns: TableColumn[]; times: number[]; rows: number[][]; issues: RowIssue[] };
} {
  const found = {
    columns: [] as TableColumn[],
    times: [] as number[],
    rows: [] as number[][],
    issues: [] as RowIssue[],
  };
  return {
    found,
    columns: (columns) => void (found.columns = [...columns]),
    row(timeS, values) {
      found.times.push(timeS);
      found.rows.push(Array.from(values));
    },
    issue: (issue) => void found.issues.push(issue),
  };
}
