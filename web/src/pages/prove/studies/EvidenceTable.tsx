import { format } from 'date-fns';
import { Trash2 } from 'lucide-react';
import type { StudyEvidenceRow } from '@lucky-needle/core/model';
import type { StudyColumn, StudyKind } from '@lucky-needle/core/study';
import { printNumber, type UnitId } from '@lucky-needle/core/units';
import { unitOf } from './RowForm.tsx';
import { CHOICE_WORDS } from '@lucky-needle/core/words';

interface Props {
  readonly kind: StudyKind;
  readonly unit: UnitId;
  /** Places behind the point that are worth reading of what the gadget shows; null where nobody knows. */
  readonly worth: number | null;
  readonly rows: readonly StudyEvidenceRow[];
  readonly stale: readonly string[];
  readonly runName: (id: string) => string;
  readonly busy: boolean;
  onExclude(id: string, reason: string | null): void;
  onRemove(id: string): void;
}

const SOURCE = { typed: 'entered manually', live: 'live', run: '' } as const;

/** All rows of a study: what was read, when and how it came, and whether it counts. */
export function EvidenceTable({ kind, unit, worth, rows, stale, runName, busy, onExclude, onRemove }: Props) {
  // What somebody typed is told as it was typed.
  const most = (row: StudyEvidenceRow, column: StudyColumn) =>
    column.holds === 'shown' && row.from.kind !== 'typed' ? (worth ?? MOST) : MOST;
  const decimals = Object.fromEntries(
    kind.columns.map((c) => [
      c.id,
      Math.max(0, ...rows.map((r) => Math.min(most(r, c), decimalsOf(r.values[c.id])))),
    ]),
  );
  const left = rows.filter((r) => r.excluded !== null).length;
  return (
    <div className="max-h-96 overflow-auto print:max-h-none">
      <table className="table-sm table [&_:is(td,th)]:px-1.5 [&_:is(td,th):first-child]:pl-0">
        <caption className="muted pb-1 text-left text-xs">
          {rows.length === 1 ? '1 row' : `${rows.length} rows`}
          {left > 0 && `, ${left} excluded`}
        </caption>
        <thead>
          <tr>
            <th>Include</th>
            {kind.columns.map((column) => (
              <th key={column.id} className={`whitespace-normal ${isText(column.holds) ? '' : 'text-right'}`}>
                {column.title}
                {unitOf(column, unit) && `,\u00a0${unitOf(column, unit)}`}
              </th>
            ))}
            <th>Source</th>
            <th className="no-print" aria-label="Remove" />
          </tr>
        </thead>
        <tbody>
          {rows.map((row, i) => (
            <tr key={row.id} className={row.excluded === null ? '' : 'opacity-60'}>
              <td>
                <input
                  type="checkbox"
                  className="checkbox checkbox-xs"
                  checked={row.excluded === null}
                  disabled={busy}
                  aria-label={`Include row ${i + 1}`}
                  onChange={(e) => onExclude(row.id, e.target.checked ? null : 'excluded manually')}
                />
              </td>
              {kind.columns.map((column) => {
                const value = row.values[column.id];
                return (
                  <td
                    key={column.id}
                    className={
                      column.holds === 'day'
                        ? 'whitespace-nowrap'
                        : isText(column.holds)
                          ? ''
                          : 'num text-right'
                    }
                  >
                    {typeof value === 'number'
                      ? printNumber(value, decimals[column.id]!)
                      : (CHOICE_WORDS[value ?? ''] ?? value ?? '–')}
                  </td>
                );
              })}
              <td className="muted text-xs whitespace-nowrap">
                {row.from.kind === 'run' ? runName(row.from.recordingId) : SOURCE[row.from.kind]}
                <span className="block">{format(new Date(row.keptAt), 'd MMM')}</span>
                {row.excluded !== null && <span className="block">{row.excluded}</span>}
                {stale.includes(row.id) && (
                  <span className="block text-warning">read with a different line</span>
                )}
              </td>
              <td className="no-print">
                <button
                  type="button"
                  className="btn btn-ghost btn-xs"
                  aria-label={`Remove row ${i + 1}`}
                  disabled={busy}
                  onClick={() => onRemove(row.id)}
                >
                  <Trash2 className="size-3.5" aria-hidden />
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

const MOST = 6;

/** Places behind the point that a number was written with, so that a column stands in line; six digits at the most. */
function decimalsOf(value: number | string | undefined): number {
  if (typeof value !== 'number') return 0;
  const [, behind = ''] = String(Number(value.toPrecision(6))).split('.');
  return behind.includes('e') ? MOST : Math.min(MOST, behind.length);
}

const isText = (holds: StudyKind['columns'][number]['holds']) => ['text', 'choice', 'day'].includes(holds);
