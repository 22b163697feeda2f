import { Plus } from 'lucide-react';
import type { FacePage } from '@lucky-needle/core/model';

/** Pages of a face at the most. */
const MOST = 8;

interface Props {
  readonly pages: readonly FacePage[];
  readonly shown: number;
  onShow(page: number): void;
  /** Not there while the pages are not arranged by hand. */
  onPages?: ((pages: FacePage[], show: number) => void) | undefined;
}

/** The pages of a face: which is shown, and more or fewer of them. */
export function PageTabs({ pages, shown, onShow, onPages }: Props) {
  if (pages.length < 2 && !onPages) return null;
  return (
    <div className="flex flex-wrap items-center gap-1" role="group" aria-label="Pages">
      {pages.map((page, k) => (
        <button
          key={page.name}
          type="button"
          aria-pressed={k === shown}
          className={`btn btn-sm ${k === shown ? 'bg-base-content text-base-100' : 'btn-ghost'}`}
          onClick={() => onShow(k)}
        >
          {page.name}
        </button>
      ))}
      {onPages && pages.length < MOST && (
        <button
          type="button"
          className="btn btn-ghost btn-sm"
          onClick={() => onPages([...pages, { name: `Page ${pages.length + 1}`, widgets: [] }], pages.length)}
        >
          <Plus className="size-4" aria-hidden /> Add page
        </button>
      )}
      {onPages && pages.length > 1 && (
        <button
          type="button"
          className="btn btn-ghost btn-sm"
          onClick={() =>
            onPages(
              pages.filter((_, k) => k !== shown).map((p, k) => ({ ...p, name: `Page ${k + 1}` })),
              Math.max(0, shown - 1),
            )
          }
        >
          Delete page {shown + 1}
        </button>
      )}
    </div>
  );
}
