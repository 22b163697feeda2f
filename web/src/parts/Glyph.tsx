export type GlyphState = 'done' | 'part' | 'open' | 'trouble';

const WORDS: Record<GlyphState, string> = {
  done: 'done',
  part: 'in progress',
  open: 'not started',
  trouble: 'needs attention',
};

/** State as a shape as well as a colour: full, half, empty, barred disc. */
export function Glyph({ state, label }: { state: GlyphState; label?: string }) {
  const color = { done: 'text-success', part: 'text-warning', open: 'opacity-60', trouble: 'text-error' }[
    state
  ];
  return (
    <svg
      viewBox="0 0 12 12"
      className={`size-3 shrink-0 ${color}`}
      role="img"
      aria-label={label ?? WORDS[state]}
    >
      {state === 'done' && <circle cx="6" cy="6" r="4" fill="currentColor" />}
      {state === 'open' && (
        <circle cx="6" cy="6" r="3.4" fill="none" stroke="currentColor" strokeWidth="1.3" />
      )}
      {state === 'part' && (
        <>
          <circle cx="6" cy="6" r="3.9" fill="none" stroke="currentColor" strokeWidth="1.3" />
          <path d="M6 2a4 4 0 0 1 0 8z" fill="currentColor" />
        </>
      )}
      {state === 'trouble' && (
        <>
          <circle cx="6" cy="6" r="4.6" fill="currentColor" />
          <path d="M3.4 6h5.2" stroke="var(--color-base-100)" strokeWidth="1.6" />
        </>
      )}
    </svg>
  );
}
