import { useMemo, useState } from 'react';
import { format } from 'date-fns';
import {
  flexRender,
  getCoreRowModel,
  getPaginationRowModel,
  getSortedRowModel,
  useReactTable,
  type ColumnDef,
  type SortingState,
  type VisibilityState,
} from '@tanstack/react-table';
import type { NowFigure, Trial, TrialRule } from '@lucky-needle/core/model';
import { groupings, groupOf, type GroupedBy } from '@lucky-needle/core/trial';
import { printNumber, UNITS } from '@lucky-needle/core/units';
import { Choice } from '../../../parts/Choice.tsx';
import { worthText } from '../../../parts/counts/figureText.ts';
import { CountsCell } from './CountsCell.tsx';
import { GroupRow } from './GroupRow.tsx';
import { daysOf, dotOf, groupedInWords, labelsOf } from './labels.ts';
import { TypedCell } from './TypedCell.tsx';

interface Props {
  readonly trials: readonly Trial[];
  readonly rule: TrialRule;
  /** Ids of the trials that are laid over each other. */
  readonly chosen: readonly string[];
  onChoose(trial: Trial): void;
  onLabel(trial: Trial, label: string): void;
  onNote(trial: Trial, note: string): void;
  onExclude(trial: Trial, reason: string | null): void;
}

/** What every row needs, and changes with the trials. */
interface TrialsMeta {
  readonly labels: readonly string[];
  readonly chosen: readonly string[];
}

type FigureHead = Pick<NowFigure, 'id' | 'name' | 'unit'>;

/** Rows that are drawn at once: thousands of trials page without stutter. */
const PAGE = 20;

/** Trials, newest first, each with its figures, what was tried, and whether it counts. */
export function TrialTable({ trials, rule, chosen, onChoose, onLabel, onNote, onExclude }: Props) {
  const [sorting, setSorting] = useState<SortingState>([{ id: 'at', desc: true }]);
  const [columnVisibility, setVisible] = useState<VisibilityState>({});
  const labels = useMemo(() => labelsOf(trials), [trials]);
  const [wanted, setWanted] = useState<GroupedBy | ''>('');
  const dayOf = useMemo(() => daysOf(trials), [trials]);
  const choices = groupings(trials.map((t) => ({ ...t, day: dayOf(t) })));
  const by = wanted !== '' && choices.includes(wanted) ? wanted : '';
  const inGroup = (t: Trial) => (by === '' ? '' : groupOf({ ...t, day: dayOf(t) }, by));
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
        id: 'chosen',
        header: () => <span className="sr-only">In overlay</span>,
        enableSorting: false,
        enableHiding: false,
        cell: ({ row: { original: t }, table }) =>
          !t.isOpen && (
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              aria-label={`Add trial ${t.number} of ${t.runName} to the overlay`}
              checked={(table.options.meta as TrialsMeta).chosen.includes(t.id)}
              onChange={() => onChoose(t)}
            />
          ),
      },
      {
        id: 'at',
        header: 'Trial',
        enableHiding: false,
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
        header: 'Label',
        accessorFn: (t) => t.label,
        cell: ({ row: { original: t }, table }) => (
          <span className="flex items-center gap-2">
            <span
              aria-hidden
              className={`size-2.5 shrink-0 rounded-full ${dotOf((table.options.meta as TrialsMeta).labels, t.label)}`}
            />
            <TypedCell
              label={`Label for trial ${t.number} of ${t.runName}`}
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
        header: 'Included',
        enableSorting: false,
        cell: ({ row: { original: t } }) => (
          <CountsCell trial={t} onExclude={(reason) => onExclude(t, reason)} />
        ),
      },
      ...figures.slice(1).map((f) => figureColumn(f, false)),
      {
        id: 'note',
        header: 'Note',
        enableSorting: false,
        accessorFn: (t) => t.note,
        cell: ({ row: { original: t } }) => (
          <TypedCell
            label={`Note for trial ${t.number} of ${t.runName}`}
            value={t.note}
            placeholder="note"
            most={400}
            onKeep={(note) => onNote(t, note)}
          />
        ),
      },
    ];
  }, [figureKey, onChoose, onLabel, onNote, onExclude]);
  const all = useMemo(
    (): ColumnDef<Trial>[] => [
      ...columns,
      {
        id: 'group',
        header: 'Group',
        enableHiding: false,
        // Days follow each other, whatever they are called.
        accessorFn: (t) =>
          by === ''
            ? ''
            : by === 'day'
              ? format(new Date(t.at), 'yyyy-MM-dd')
              : groupOf({ ...t, day: dayOf(t) }, by),
      },
    ],
    [columns, by, dayOf],
  );
  // eslint-disable-next-line react-hooks/incompatible-library -- nothing of the table is handed on to memoised parts
  const table = useReactTable({
    data: trials as Trial[],
    columns: all,
    state: {
      sorting: by === '' ? sorting : [{ id: 'group', desc: by === 'day' }, ...sorting],
      columnVisibility: { ...columnVisibility, group: false },
    },
    onColumnVisibilityChange: setVisible,
    meta: { labels, chosen } satisfies TrialsMeta,
    onSortingChange: (change) =>
      setSorting((now) =>
        (typeof change === 'function' ? change(now) : change).filter((s) => s.id !== 'group'),
      ),
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
      <details className="mb-1 text-sm">
        <summary className="muted w-fit cursor-pointer text-xs">Columns and groups</summary>
        <div className="mt-1">
          <Choice
            label="Group rows by"
            value={by}
            options={[['', 'no grouping'], ...choices.map((c) => [c, groupedInWords(c)] as const)]}
            onChange={(id) => setWanted(id as GroupedBy | '')}
          />
        </div>
        <div className="mt-1 flex flex-wrap gap-x-4 gap-y-1">
          {table
            .getAllLeafColumns()
            .filter((c) => c.getCanHide())
            .map((c) => (
              <label key={c.id} className="flex items-center gap-2">
                <input
                  type="checkbox"
                  className="checkbox checkbox-xs"
                  checked={c.getIsVisible()}
                  onChange={c.getToggleVisibilityHandler()}
                />
                {String(c.columnDef.header)}
              </label>
            ))}
        </div>
      </details>
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
          {table.getRowModel().rows.flatMap((row, k, rows) => [
            by !== '' && (k === 0 || inGroup(rows[k - 1]!.original) !== inGroup(row.original)) && (
              <GroupRow
                key={`group ${row.id}`}
                title={inGroup(row.original) || 'unlabelled'}
                trials={trials.filter((t) => inGroup(t) === inGroup(row.original))}
                rule={rule}
                columns={row.getVisibleCells().length}
              />
            ),
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
            </tr>,
          ])}
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
            Page {table.getState().pagination.pageIndex + 1} of {table.getPageCount()}
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
      {isWhole && <span className="muted text-xs max-sm:block"> {worthText(figure)}</span>}
    </span>
  );
}
