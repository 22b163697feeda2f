import { useCallback, useLayoutEffect, useRef } from 'react';

/** How long what was shown as ready is good for the press that answers it, ms: that of a hand which saw it. */
const GOOD_MS = 1000;

export interface LastReady<T> {
  /** What is shown as ready, or was a moment ago; null where nothing was, or it was answered already. */
  readonly take: () => T | null;
  /** It was kept: the next press answers what is shown after. */
  readonly answered: () => void;
}

/** What a page last showed as ready to be kept. Noise may refuse the very next look: a press answers what was shown. */
export function useShownReady<T>(ready: T | null): LastReady<T> {
  const last = useRef<{ readonly ready: T; readonly untilMs: number } | null>(null);
  useLayoutEffect(() => {
    if (ready === null) return;
    last.current = { ready, untilMs: Infinity };
    // Shown until it no longer is; from then on the time runs.
    return () => {
      if (last.current?.ready === ready) last.current = { ready, untilMs: performance.now() + GOOD_MS };
    };
  }, [ready]);
  const take = useCallback(() => {
    const shown = last.current;
    return shown !== null && performance.now() <= shown.untilMs ? shown.ready : null;
  }, []);
  const answered = useCallback(() => {
    last.current = null;
  }, []);
  return { take, answered };
}
