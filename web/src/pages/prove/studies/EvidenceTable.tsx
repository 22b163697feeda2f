import { Trash2 } from 'lucide-react';
import type { StudyEvidenceRow } from '@lucky-needle/core/model';
import type { StudyKind } from '@lucky-needle/core/study';
import { printSignificant, type UnitId } from '@lucky-needle/core/units';
import { unitOf } from './RowForm.tsx';

interface Props {
  readonly kind: StudyKind;
  readonly unit: UnitId;
  readonly rows: readonly StudyEvidenceRow[];
  readonly stale: readonly string[];
  readonly runName: (id: string) => string;
  readonly busy: boolean;
  onExclude(id: string, reason: string | null): void;
  onRemove(id: string): void;
}

const SOURCE = { typed: 'typed', live: 'from the gadget', run: '' } as const;

/** All rows of a study: what was read, when and how it came, and whether it counts. */
export function EvidenceTable({ kind, unit, rows, stale, runName, busy, onExclude, onRemove }: Props) {
  return (
    <div className="max-h-96 overflow-auto print:max-h-none">
      <table className="table-sm table">
        <thead>
          <tr>
            <th className="pl-0">Counts</th>
            {kind.columns.map((column) => (
              <th key={column.id} className={isText(column.holds) ? '' : 'text-right'}>
                {column.title}
                {unitOf(column, unit) && `, ${unitOf(column, unit)}`}
              </th>
            ))}
            <th>Came</th>
            <th className="no-print" aria-label="Remove" />
          </tr>
        </thead>
        <tbody>
          {rows.map((row, i) => (
            <tr key={row.id} className={row.excluded === null ? '' : 'opacity-60'}>
              <td className="pl-0">
                <input
                  type="checkbox"
                  className="checkbox checkbox-xs"
                  checked={row.excluded === null}
                  disabled={busy}
                  aria-label={`Row ${i + 1} counts`}
                  onChange={(e) => onExclude(row.id, e.target.checked ? null : 'left out by hand')}
                />
              </td>
              {kind.columns.map((column) => {
                const value = row.values[column.id];
                return (
                  <td key={column.id} className={isText(column.holds) ? '' : 'num text-right'}>
                    {typeof value === 'number' ? printSignificant(value, 5) : (value ?? '–')}
                  </td>
                );
              })}
              <td className="muted text-xs whitespace-nowrap">
                {row.from.kind === 'run' ? runName(row.from.recordingId) : SOURCE[row.from.kind]},{' '}
                {new Date(row.keptAt).toLocaleDateString(undefined, { day: 'numeric', month: 'short' })}
                {row.excluded !== null && <span className="block">{row.excluded}</span>}
                {stale.includes(row.id) && <span className="block text-warning">read by another line</span>}
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

const isText = (holds: StudyKind['columns'][number]['holds']) => ['text', 'choice', 'day'].includes(holds);
