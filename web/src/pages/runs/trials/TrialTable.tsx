import { useMemo, useState } from 'react';
import {
  flexRender,
  getCoreRowModel,
  getPaginationRowModel,
  getSortedRowModel,
  useReactTable,
  type ColumnDef,
  type SortingState,
} from '@tanstack/react-table';
import type { NowFigure, Trial, TrialRule } from '@lucky-needle/core/model';
import { printNumber, UNITS } from '@lucky-needle/core/units';
import { worthText } from '../../../parts/counts/figureText.ts';
import { dotOf, labelsOf } from './labels.ts';

interface Props {
  readonly trials: readonly Trial[];
  readonly rule: TrialRule;
  onLabel(trial: Trial, label: string): void;
  onNote(trial: Trial, note: string): void;
  onExclude(trial: Trial, reason: string | null): void;
}

/** What every row needs, and changes with the trials. */
interface TrialsMeta {
  readonly labels: readonly string[];
}

type FigureHead = Pick<NowFigure, 'id' | 'name' | 'unit'>;

/** Rows that are drawn at once: thousands of trials page without stutter. */
const PAGE = 50;

/** Trials, newest first, each with its figures, what was tried, and whether it counts. */
export function TrialTable({ trials, rule, onLabel, onNote, onExclude }: Props) {
  const [sorting, setSorting] = useState<SortingState>([{ id: 'at', desc: true }]);
  const labels = useMemo(() => labelsOf(trials), [trials]);
  // What trials are ranked by stands first.
  const figureKey = JSON.stringify(
    (trials.at(-1)?.figures ?? [])
      .toSorted((x, y) => Number(y.id === rule.figureId) - Number(x.id === rule.figureId))
      .map(({ id, name, unit }) => ({ id, name, unit })),
  );
  // Columns stay the same from look to look: a cell that was made anew would lose what is being typed in it.
  const columns = useMemo((): ColumnDef<Trial>[] => {
    const figures = JSON.parse(figureKey) as FigureHead[];
    return [
      {
        id: 'at',
        header: 'Trial',
        accessorFn: (t) => t.at,
        cell: ({ row: { original: t } }) => (
          <span className="whitespace-nowrap">
            <span className="num font-semibold">{t.number}</span>{' '}
            <span
              className={`muted inline-block max-w-28 truncate align-bottom text-xs ${t.isOpen ? '' : 'max-sm:hidden'}`}
              title={t.runName}
            >
              {t.isOpen ? 'in progress' : t.runName}
            </span>
          </span>
        ),
      },
      {
        id: 'label',
        header: 'Tried',
        accessorFn: (t) => t.label,
        cell: ({ row: { original: t }, table }) => (
          <span className="flex items-center gap-2">
            <span
              aria-hidden
              className={`size-2.5 shrink-0 rounded-full ${dotOf((table.options.meta as TrialsMeta).labels, t.label)}`}
            />
            <Typed
              label={`Label of trial ${t.number} of ${t.runName}`}
              value={t.label}
              placeholder="label"
              most={40}
              onKeep={(label) => onLabel(t, label)}
            />
          </span>
        ),
      },
      ...figures.slice(0, 1).map((f) => figureColumn(f, true)),
      {
        id: 'counts',
        header: 'Counts',
        enableSorting: false,
        cell: ({ row: { original: t } }) => <Counts trial={t} onExclude={(reason) => onExclude(t, reason)} />,
      },
      {
        id: 'note',
        header: 'Note',
        enableSorting: false,
        accessorFn: (t) => t.note,
        cell: ({ row: { original: t } }) => (
          <Typed
            label={`Note of trial ${t.number} of ${t.runName}`}
            value={t.note}
            placeholder="note"
            most={400}
            onKeep={(note) => onNote(t, note)}
          />
        ),
      },
      ...figures.slice(1).map((f) => figureColumn(f, false)),
    ];
  }, [figureKey, onLabel, onNote, onExclude]);
  // eslint-disable-next-line react-hooks/incompatible-library -- nothing of the table is handed on to memoised parts
  const table = useReactTable({
    data: trials as Trial[],
    columns,
    state: { sorting },
    meta: { labels } satisfies TrialsMeta,
    onSortingChange: setSorting,
    getRowId: (t) => t.id,
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
    getPaginationRowModel: getPaginationRowModel(),
    initialState: { pagination: { pageSize: PAGE } },
    autoResetPageIndex: false,
  });
  const isNumber = (meta: unknown) => (meta as { isNumber?: boolean } | undefined)?.isNumber === true;
  return (
    <div className="overflow-x-auto">
      <table className="table table-sm" aria-label="Trials">
        <thead>
          {table.getHeaderGroups().map((group) => (
            <tr key={group.id}>
              {group.headers.map(({ id, column, getContext }) => (
                <th
                  key={id}
                  className={isNumber(column.columnDef.meta) ? 'text-right' : ''}
                  aria-sort={
                    column.getIsSorted() === 'asc'
                      ? 'ascending'
                      : column.getIsSorted() === 'desc'
                        ? 'descending'
                        : undefined
                  }
                >
                  {column.getCanSort() ? (
                    <button
                      type="button"
                      className="hover:underline"
                      onClick={column.getToggleSortingHandler()}
                    >
                      {flexRender(column.columnDef.header, getContext())}
                      {{ asc: ' ↑', desc: ' ↓' }[String(column.getIsSorted())] ?? ''}
                    </button>
                  ) : (
                    flexRender(column.columnDef.header, getContext())
                  )}
                </th>
              ))}
            </tr>
          ))}
        </thead>
        <tbody>
          {table.getRowModel().rows.map((row) => (
            <tr
              key={row.id}
              className={row.original.excluded !== null ? 'line-through opacity-70' : ''}
              data-testid="trial"
            >
              {row.getVisibleCells().map((cell) => (
                <td key={cell.id} className={isNumber(cell.column.columnDef.meta) ? 'text-right' : ''}>
                  {flexRender(cell.column.columnDef.cell, cell.getContext())}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {table.getPageCount() > 1 && (
        <div className="mt-2 flex items-center gap-3 text-sm">
          <button
            type="button"
            className="btn btn-sm"
            disabled={!table.getCanPreviousPage()}
            onClick={() => table.previousPage()}
          >
            Previous
          </button>
          <span className="muted num">
            page {table.getState().pagination.pageIndex + 1} of {table.getPageCount()}
          </span>
          <button
            type="button"
            className="btn btn-sm"
            disabled={!table.getCanNextPage()}
            onClick={() => table.nextPage()}
          >
            Next
          </button>
        </div>
      )}
    </div>
  );
}

/** @param isRankedBy what a value is worth stands beside it only where trials are ranked by it; elsewhere on hovering */
const figureColumn = ({ id, name, unit }: FigureHead, isRankedBy: boolean): ColumnDef<Trial> => ({
  id: `figure ${id}`,
  header: `${name}${UNITS[unit].symbol ? `, ${UNITS[unit].symbol}` : ''}`,
  accessorFn: (t) => t.figures.find((f) => f.id === id)?.value ?? undefined,
  sortUndefined: 'last',
  meta: { isNumber: true },
  cell: ({ row: { original: t } }) => (
    <Figure figure={t.figures.find((f) => f.id === id)} isWhole={isRankedBy} />
  ),
});

function Figure({ figure, isWhole }: { readonly figure: NowFigure | undefined; readonly isWhole: boolean }) {
  if (!figure || figure.value === null)
    return (
      <span className="muted" title={figure?.reason ?? undefined}>
        –
      </span>
    );
  return (
    <span className="num whitespace-nowrap" title={isWhole ? undefined : worthText(figure)}>
      <span className={isWhole ? 'font-semibold' : ''}>{printNumber(figure.value, figure.decimals)}</span>
      {isWhole && <span className="muted text-xs"> {worthText(figure)}</span>}
    </span>
  );
}

interface TypedProps {
  readonly label: string;
  readonly value: string;
  readonly placeholder: string;
  readonly most: number;
  onKeep(text: string): void;
}

/** A text that is kept when the field is left or Enter is pressed; what is typed is never replaced by what is fetched. */
function Typed({ label, value, placeholder, most, onKeep }: TypedProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const keep = () => {
    if (typed !== null && typed.trim() !== value) onKeep(typed.trim());
    setTyped(null);
  };
  return (
    <input
      className="input input-ghost input-xs w-24"
      aria-label={label}
      placeholder={placeholder}
      maxLength={most}
      value={typed ?? value}
      onChange={(e) => setTyped(e.target.value)}
      onBlur={keep}
      onKeyDown={(e) => {
        if (e.key === 'Enter') e.currentTarget.blur();
        if (e.key === 'Escape') setTyped(null);
      }}
    />
  );
}

interface CountsProps {
  readonly trial: Trial;
  onExclude(reason: string | null): void;
}

function Counts({ trial, onExclude }: CountsProps) {
  const [asked, setAsked] = useState(false);
  const [reason, setReason] = useState('');
  if (trial.isOpen) return null;
  if (trial.excluded !== null)
    return (
      <span className="inline-flex items-center gap-2 no-underline">
        <span className="text-xs">excluded: {trial.excluded}</span>
        <button type="button" className="btn btn-ghost btn-xs" onClick={() => onExclude(null)}>
          Include
        </button>
      </span>
    );
  if (!asked)
    return (
      <button type="button" className="btn btn-ghost btn-xs" onClick={() => setAsked(true)}>
        Exclude
      </button>
    );
  return (
    <form
      className="flex items-center gap-1"
      onSubmit={(e) => {
        e.preventDefault();
        if (reason.trim() === '') return;
        onExclude(reason.trim());
        setAsked(false);
        setReason('');
      }}
    >
      <input
        className="input input-xs w-32"
        aria-label={`Why trial ${trial.number} does not count`}
        placeholder="why"
        autoFocus
        maxLength={200}
        value={reason}
        onChange={(e) => setReason(e.target.value)}
        onKeyDown={(e) => {
          if (e.key === 'Escape') setAsked(false);
        }}
      />
      <button className="btn btn-xs" disabled={reason.trim() === ''}>
        Exclude
      </button>
    </form>
  );
}
