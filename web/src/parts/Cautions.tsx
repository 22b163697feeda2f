import { TriangleAlert } from 'lucide-react';
import { cautionsFor } from '@lucky-needle/core/plan';
import type { Gadget } from '@lucky-needle/core/model';
import { useShelf } from '../app/useShelf.ts';
import { useSaveGadget } from './useSaveGadget.ts';

/** Cautions that the brief and the picked parts call for. Each can be put away for this gadget; the printed bring-up sheet lists them all the same. */
export function Cautions({ gadget }: { gadget: Gadget }) {
  const shelf = useShelf();
  const { save, saving } = useSaveGadget(gadget);
  const all = cautionsFor(gadget, shelf);
  const shown = all.filter((c) => !gadget.cautionsRead.includes(c.id));
  const away = all.length - shown.length;
  if (all.length === 0) return null;
  return (
    <section aria-label="Safety notes" className="grid gap-2">
      {shown.map((c) => (
        <div key={c.id} role="note" className="rounded-box border border-warning/60 bg-warning/8 p-3 text-sm">
          <p className="flex items-center gap-2 font-semibold">
            <TriangleAlert className="size-4 shrink-0 text-warning" aria-hidden />
            {c.title}
          </p>
          <p className="mt-1">{c.text}</p>
          <p className="muted mt-1 flex flex-wrap items-baseline justify-between gap-2 text-xs">
            <span>Applies because of: {c.because.join(', ')}.</span>
            <button
              type="button"
              className="btn btn-ghost btn-xs no-print"
              disabled={saving}
              onClick={() =>
                void save(
                  ({ cautionsRead }) => ({ cautionsRead: [...cautionsRead, c.id] }),
                  'Hidden for this gadget.',
                )
              }
            >
              Got it
            </button>
          </p>
        </div>
      ))}
      {away > 0 && (
        <p className="muted no-print text-xs">
          {away} safety note{away > 1 ? 's' : ''} hidden.{' '}
          <button
            type="button"
            className="link"
            disabled={saving}
            onClick={() => void save({ cautionsRead: [] }, 'Safety notes are visible again.')}
          >
            Show again
          </button>
        </p>
      )}
    </section>
  );
}
