import type { StudyBody } from '@lucky-needle/core/model';
import { checkStudySettings, type StudyKind } from '@lucky-needle/core/study';
import { isoSeconds } from '@lucky-needle/core/units';
import { ProblemError } from '../http/problem.ts';
import { CHOICE_WORDS } from '@lucky-needle/core/words';

export const invalid = (detail: string, wayOut: string, field: string) =>
  new ProblemError(422, 'invalid-study', 'Invalid study', detail, wayOut, field);

/** Settings and rows as the kind takes them. */
export function checkBody(kind: StudyKind, body: StudyBody): void {
  try {
    checkStudySettings(kind, body.settings);
  } catch (error) {
    if (!(error instanceof RangeError) && !(error instanceof TypeError)) throw error;
    throw invalid(error.message, 'Correct the settings.', 'settings');
  }
  const ids = new Set(body.rows.map((r) => r.id));
  if (ids.size < body.rows.length)
    throw invalid('Two rows have the same id.', 'Give each row its own id.', 'rows');
  body.rows.forEach(({ values }, i) => {
    for (const column of kind.columns) {
      const value = values[column.id];
      const field = `rows.${i}.values.${column.id}`;
      const refuse = (what: string) =>
        invalid(
          `Row ${i + 1}, ${column.title}: ${what}${value === undefined ? '' : `; received ${JSON.stringify(value)}`}.`,
          'Correct the value.',
          field,
        );
      if (value === undefined || value === '') {
        if (!column.optional) throw refuse('a value is required');
      } else if (column.holds === 'choice') {
        if (!column.choices!.includes(String(value)))
          throw refuse(`must be ${column.choices!.map((c) => CHOICE_WORDS[c] ?? c).join(' or ')}`);
      } else if (column.holds === 'day') {
        if (!/^\d{4}-\d\d-\d\d$/.test(String(value)) || Number.isNaN(isoSeconds(String(value))))
          throw refuse('must be a date such as 2026-05-04');
      } else if (column.holds === 'text') {
        if (typeof value !== 'string') throw refuse('must be text');
      } else if (typeof value !== 'number') throw refuse('must be a number');
      else if (column.holds === 'count' && !(Number.isInteger(value) && value >= 0))
        throw refuse('must be a whole number, 0 or more');
    }
    const other = Object.keys(values).find((id) => !kind.columns.some((c) => c.id === id));
    if (other !== undefined)
      throw invalid(
        `Row ${i + 1}: there is no column "${other}".`,
        'Remove this column.',
        `rows.${i}.values`,
      );
  });
}
