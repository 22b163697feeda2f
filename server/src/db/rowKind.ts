import type { TSchema } from 'typebox';
import { ProblemError } from '../http/problem.ts';
import { whyInvalid } from '../http/validate.ts';

/** How the rows of a table become what the API answers. */
export interface RowKind<Row, T> {
  readonly table: string;
  /** In words, as in "a recording". */
  readonly what: string;
  readonly schema: TSchema;
  fromRow(row: Row): T;
}

/** Why a row cannot be answered; null when it can. */
export function whyDamaged<Row, T>({ schema, fromRow }: RowKind<Row, T>, row: Row): string | null {
  try {
    return whyInvalid(schema, fromRow(row));
  } catch (error) {
    return (error as Error).message;
  }
}

/** Those of some rows that can be answered: a damaged one hides none of the others, and is shown among the damaged. */
export const soundOf = <Row, T>(kind: RowKind<Row, T>, rows: readonly Row[]): T[] =>
  rows.filter((row) => whyDamaged(kind, row) === null).map((row) => kind.fromRow(row));

/** @throws {ProblemError} when the row is damaged */
export function readRow<Row, T>(kind: RowKind<Row, T>, row: Row): T {
  try {
    return kind.fromRow(row);
  } catch (error) {
    throw new ProblemError(
      409,
      'damaged-row',
      'Damaged data',
      `This ${kind.what} is damaged in the database: ${(error as Error).message}.`,
      'On the Workshop page you can download its contents and delete it.',
    );
  }
}
