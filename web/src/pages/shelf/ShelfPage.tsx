import { Copy, Download, Pencil, Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { PART_KINDS, type OwnPart, type Part, type PartKind } from '@lucky-needle/core/model';
import { blankPart, partsOf } from '@lucky-needle/core/plan';
import { useDeletePartMutation, usePartsQuery } from '../../api/shelfApi.ts';
import { problemOf } from '../../api/problemOf.ts';
import { Brand } from '../../app/shell/Brand.tsx';
import { ThemeSwitch } from '../../app/shell/ThemeSwitch.tsx';
import { useAppDispatch } from '../../app/store.ts';
import { toastShown } from '../../app/toasts.ts';
import { useShelf } from '../../app/useShelf.ts';
import { EmptyState } from '../../parts/EmptyState.tsx';
import { PageHead } from '../../parts/PageHead.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { ImportPanel } from './ImportPanel.tsx';
import { partFacts } from './partFacts.ts';
import { PartForm } from './PartForm.tsx';

const KIND_TITLES: Readonly<Record<PartKind, string>> = {
  sensor: 'Sensors',
  converter: 'Converters',
  display: 'Displays',
  board: 'Boards',
  supply: 'Supplies',
  sounder: 'Sounders',
  connector: 'Connectors',
  passive: 'Passives',
};

/** Title, figures, price, buttons; on a phone the figures go below. */
const ROW =
  'grid grid-cols-[minmax(0,1fr)_3rem_auto] gap-x-4 gap-y-1 md:grid-cols-[minmax(0,1fr)_minmax(0,1.1fr)_3.5rem_5.5rem]';

interface Editing {
  readonly start: Part;
  readonly own: OwnPart | null;
}

/** Every part that can be picked: the bench's own, and those that the maker adds, copies, changes or imports. */
export function ShelfPage() {
  const shelf = useShelf();
  const { data: own = [], error } = usePartsQuery();
  const [search, setSearch] = useSearchParams();
  const [wanted, setWanted] = useState('');
  const [editing, setEditing] = useState<Editing | null>(null);
  const kind = PART_KINDS.find((k) => k === search.get('kind')) ?? 'sensor';
  const words = wanted.toLowerCase().split(/\s+/).filter(Boolean);
  // A search looks through the whole shelf: who types a word does not know the drawer.
  const listed: readonly Part[] =
    words.length > 0
      ? shelf.filter((part) => words.every((w) => textOf(part).includes(w)))
      : partsOf(shelf, kind);
  const ownOf = (part: Part) => own.find((o) => o.part.id === part.id) ?? null;
  return (
    <div className="flex min-h-dvh flex-col bg-base-200">
      <header className="rail flex items-center justify-between bg-neutral px-5 py-4 text-neutral-content lg:px-10">
        <Brand />
        <ThemeSwitch />
      </header>
      <main id="main" tabIndex={-1} className="mx-auto w-full max-w-7xl grow p-4 lg:px-10 lg:py-6">
        <PageHead title="Shelf" subtitle={`${shelf.length} parts, ${own.length} of them yours`}>
          <button
            type="button"
            className="btn btn-primary btn-sm"
            onClick={() => setEditing({ start: newPart(kind, shelf), own: null })}
          >
            <Plus className="size-4" aria-hidden /> Add a part
          </button>
          <a className="btn btn-sm" href="/api/parts-file?format=csv&whole=1" download>
            <Download className="size-4" aria-hidden /> CSV
          </a>
          <a className="btn btn-sm" href="/api/parts-file?format=json&whole=1" download>
            <Download className="size-4" aria-hidden /> JSON
          </a>
          <ImportPanel />
          <Link className="btn btn-sm" to="/shelf/references">
            References
          </Link>
        </PageHead>
        <ProblemNote problem={problemOf(error)} />
        <div className="mb-3 flex flex-wrap items-center gap-2">
          <div role="group" aria-label="Part type" className="flex flex-wrap gap-1">
            {PART_KINDS.map((k) => (
              <button
                key={k}
                type="button"
                aria-pressed={k === kind && words.length === 0}
                className={`btn btn-sm ${k === kind && words.length === 0 ? 'bg-base-content text-base-100' : 'btn-ghost'}`}
                onClick={() => {
                  setWanted('');
                  setSearch({ kind: k }, { replace: true });
                }}
              >
                {KIND_TITLES[k]} <span className="num text-xs opacity-70">{partsOf(shelf, k).length}</span>
              </button>
            ))}
          </div>
          <input
            type="search"
            className="input input-sm w-full sm:ml-auto sm:w-56"
            placeholder="Search the shelf"
            aria-label="Search the shelf"
            value={wanted}
            onChange={(e) => setWanted(e.target.value)}
          />
        </div>
        <div className={`grid items-start gap-4 ${editing ? 'lg:grid-cols-[1fr_26rem]' : ''}`}>
          {listed.length === 0 ? (
            <EmptyState title="No matching parts">Try another search, or add your own part.</EmptyState>
          ) : (
            <ul className="panel divide-y divide-base-300 p-0">
              <li aria-hidden className={`${ROW} muted px-4 py-1.5 text-xs max-md:hidden`}>
                <span>Part</span>
                <span>Specifications</span>
                <span className="text-right">Price</span>
              </li>
              {listed.map((part) => (
                <PartRow
                  key={part.id}
                  part={part}
                  own={ownOf(part)}
                  onCopy={() => setEditing({ start: copyOf(part, shelf), own: null })}
                  onEdit={() => setEditing({ start: part, own: ownOf(part) })}
                />
              ))}
            </ul>
          )}
          {editing && (
            <PartForm
              key={`${editing.start.id}/${editing.own?.version ?? 'new'}`}
              start={editing.start}
              own={editing.own}
              onDone={() => setEditing(null)}
            />
          )}
        </div>
        <p className="muted mt-4 text-xs">
          Parts are generic, with typical values; prices are in your own currency. Copy a part and enter the
          values of the one you have.{' '}
          <Link className="link" to="/">
            Back to the workshop
          </Link>
        </p>
      </main>
    </div>
  );
}

interface RowProps {
  readonly part: Part;
  readonly own: OwnPart | null;
  onCopy(): void;
  onEdit(): void;
}

function PartRow({ part, own, onCopy, onEdit }: RowProps) {
  const [remove] = useDeletePartMutation();
  const dispatch = useAppDispatch();
  return (
    <li className={`${ROW} items-center px-4 py-2`}>
      <div>
        <p className="text-sm font-semibold">
          {part.title}
          {own && <span className="badge badge-sm ml-2 border-primary text-primary">yours</span>}
        </p>
        <p className="muted text-xs">{part.summary}</p>
      </div>
      <p className="num col-span-3 row-start-2 text-xs md:col-span-1 md:row-start-auto">{partFacts(part)}</p>
      <p className="num text-right text-sm">{part.price.toFixed(2)}</p>
      <div className="flex justify-end">
        {own && (
          <>
            <button
              type="button"
              className="btn btn-ghost btn-xs"
              aria-label={`Edit ${part.title}`}
              title="Edit"
              onClick={onEdit}
            >
              <Pencil className="size-4" aria-hidden />
            </button>
            <button
              type="button"
              className="btn btn-ghost btn-xs"
              aria-label={`Remove ${part.title} from the shelf`}
              title="Remove from shelf"
              onClick={async () => {
                const result = await remove(part.id);
                dispatch(
                  result.error
                    ? toastShown({ text: problemOf(result.error)!.detail, tone: 'trouble' })
                    : toastShown({
                        text: `${part.title} removed from the shelf.`,
                        tone: 'done',
                        restorePartId: part.id,
                      }),
                );
              }}
            >
              <Trash2 className="size-4" aria-hidden />
            </button>
          </>
        )}
        <button
          type="button"
          className="btn btn-ghost btn-xs"
          aria-label={`Copy ${part.title}`}
          title="Copy to your own part"
          onClick={onCopy}
        >
          <Copy className="size-4" aria-hidden />
        </button>
      </div>
    </li>
  );
}

function textOf(part: Part): string {
  const felt = part.kind === 'sensor' ? `${part.measurand} ${part.signal}` : '';
  return `${part.id} ${part.title} ${part.summary} ${part.kind} ${part.bus} ${felt}`.toLowerCase();
}

function freeId(wanted: string, shelf: readonly Part[]): string {
  const root = wanted.slice(0, 36);
  for (let n = 1; ; n++) {
    const id = n === 1 ? root : `${root}-${n}`;
    if (!shelf.some((p) => p.id === id)) return id;
  }
}

const newPart = (kind: PartKind, shelf: readonly Part[]): Part => {
  const blank = blankPart(kind);
  return { ...blank, id: freeId(blank.id, shelf) };
};

const copyOf = (part: Part, shelf: readonly Part[]): Part => ({
  ...part,
  id: freeId(`${part.id}-own`, shelf),
  title: `${part.title} (copy)`.slice(0, 80),
});
