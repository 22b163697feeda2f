import { Maximize } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { useGadgetsQuery } from '../../api/gadgetApi.ts';
import { problemOf } from '../../api/problemOf.ts';
import { EmptyState } from '../../parts/EmptyState.tsx';
import { Loading } from '../../parts/Loading.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { WallTile } from './WallTile.tsx';

/** More than these cannot be read from across the room. */
const MOST = 9;

/** Several gadgets in large figures, for a tablet on the wall; which ones stands in the address. */
export function WallPage() {
  const { data, error } = useGadgetsQuery();
  const [search, setSearch] = useSearchParams();
  const wall = useRef<HTMLDivElement>(null);
  const isFull = useFullScreen();
  const asked = search.get('g')?.split(',').filter(Boolean) ?? [];
  const gadgets = asked.flatMap((id) => data?.items.find((g) => g.id === id) ?? []);
  const asDisplay = search.get('as') === 'display';
  const look = (change: { g?: string[]; display?: boolean }) => {
    const g = (change.g ?? asked).join(',');
    setSearch(
      { ...(g ? { g } : {}), ...((change.display ?? asDisplay) ? { as: 'display' } : {}) },
      { replace: true },
    );
  };
  const choose = (id: string) => {
    const ids = asked.includes(id) ? asked.filter((a) => a !== id) : [...asked, id];
    look({ g: ids });
  };
  const columns = gadgets.length > 4 ? 3 : gadgets.length > 1 ? 2 : 1;
  return (
    <div ref={wall} className="flex min-h-dvh flex-col gap-3 bg-base-200 p-3 sm:p-4 lg:h-dvh">
      {!isFull && (
        <header className="flex flex-wrap items-center gap-3">
          <Link to="/" className="btn btn-ghost btn-sm">
            ‹ Workshop
          </Link>
          <h1 className="grow">Wall view</h1>
          <div role="group" aria-label="View" className="join">
            {[false, true].map((display) => (
              <button
                key={String(display)}
                type="button"
                aria-pressed={display === asDisplay}
                className={`btn join-item btn-sm ${display === asDisplay ? 'bg-base-content text-base-100' : ''}`}
                onClick={() => look({ display })}
              >
                {display ? 'Gadget display' : 'Large numbers'}
              </button>
            ))}
          </div>
          <button
            type="button"
            className="btn btn-sm"
            disabled={gadgets.length === 0}
            onClick={() => void wall.current?.requestFullscreen()}
          >
            <Maximize className="size-4" aria-hidden /> Full screen
          </button>
        </header>
      )}
      <ProblemNote problem={problemOf(error)} />
      {!data && !error && <Loading what="the gadgets" />}
      {data && !isFull && (
        <div role="group" aria-label="Gadgets in this view" className="flex flex-wrap gap-1">
          {data.items.map(({ id, name }) => {
            const isShown = asked.includes(id);
            return (
              <button
                key={id}
                type="button"
                aria-pressed={isShown}
                disabled={!isShown && gadgets.length >= MOST}
                className={`btn btn-sm ${isShown ? 'bg-base-content text-base-100' : 'btn-ghost'}`}
                onClick={() => choose(id)}
              >
                {name}
              </button>
            );
          })}
        </div>
      )}
      {data && gadgets.length === 0 && (
        <EmptyState title="Choose gadgets to show">
          Choose up to {MOST} gadgets above. Your choice is part of the page address: open that address on a
          wall-mounted tablet.
        </EmptyState>
      )}
      <main
        id="main"
        tabIndex={-1}
        className={`grid min-h-0 grow auto-rows-fr gap-3 ${columns === 3 ? 'sm:grid-cols-2 lg:grid-cols-3' : columns === 2 ? 'sm:grid-cols-2' : ''}`}
      >
        {gadgets.map((gadget) => (
          <WallTile key={gadget.id} gadget={gadget} asDisplay={asDisplay} />
        ))}
      </main>
    </div>
  );
}

function useFullScreen(): boolean {
  const [isFull, setFull] = useState(false);
  useEffect(() => {
    const look = () => setFull(document.fullscreenElement !== null);
    document.addEventListener('fullscreenchange', look);
    return () => document.removeEventListener('fullscreenchange', look);
  }, []);
  return isFull;
}
