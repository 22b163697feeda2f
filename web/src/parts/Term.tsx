import { useId, useLayoutEffect, useRef, useState, type ReactNode } from 'react';
import type { GlossaryEntry } from '@lucky-needle/core/words';

const WIDTH_PX = 288;
const GAP_PX = 6;

/** A term with its explanation, shown on hover, focus or tap. Escape hides it. */
export function Term({ entry, children }: { readonly entry: GlossaryEntry; readonly children: ReactNode }) {
  const id = useId();
  const [shown, setShown] = useState(false);
  const term = useRef<HTMLSpanElement>(null);
  return (
    <>
      <span
        ref={term}
        role="term"
        tabIndex={0}
        className="cursor-help rounded-sm underline decoration-base-content/40 decoration-dotted underline-offset-3"
        aria-describedby={shown ? id : undefined}
        onPointerEnter={(e) => e.pointerType === 'mouse' && setShown(true)}
        onPointerLeave={(e) => e.pointerType === 'mouse' && setShown(false)}
        onFocus={() => setShown(true)}
        onBlur={() => setShown(false)}
        onClick={(e) => {
          // In a label, a tap would go on to the field.
          e.preventDefault();
          setShown(true);
        }}
        onKeyDown={(e) => e.key === 'Escape' && setShown(false)}
      >
        {children}
      </span>
      {shown && <Bubble id={id} entry={entry} at={term.current} />}
    </>
  );
}

/** Stands under its term, or above where there is no room, and never leaves the window. */
function Bubble({ id, entry, at }: { id: string; entry: GlossaryEntry; at: HTMLElement | null }) {
  const bubble = useRef<HTMLSpanElement>(null);
  const [place, setPlace] = useState<{ left: number; top: number } | null>(null);
  useLayoutEffect(() => {
    if (!at || !bubble.current) return;
    const { left, top, bottom } = at.getBoundingClientRect();
    const { height } = bubble.current.getBoundingClientRect();
    const below = bottom + GAP_PX;
    setPlace({
      left: Math.max(GAP_PX, Math.min(left, window.innerWidth - WIDTH_PX - GAP_PX)),
      top: below + height > window.innerHeight ? Math.max(GAP_PX, top - GAP_PX - height) : below,
    });
  }, [at]);
  return (
    <span
      ref={bubble}
      id={id}
      role="tooltip"
      style={{ left: place?.left ?? 0, top: place?.top ?? 0, width: WIDTH_PX }}
      className={`fixed z-50 rounded-box border border-base-300 bg-base-100 px-3 py-2 text-left font-sans text-[0.8125rem] leading-snug font-normal whitespace-normal text-base-content shadow-lg ${place ? '' : 'invisible'}`}
    >
      <span className="block font-semibold">{entry.term}</span>
      <span className="block">{entry.text}</span>
      <span className="muted mt-1 block">Example: {entry.example}</span>
    </span>
  );
}
