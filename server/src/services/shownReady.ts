/** How long what was shown as ready is good for the press that answers it, ms: pages look once a second. */
const GOOD_MS = 2500;

export interface ShownReady<T> {
  /** A page is shown this as ready to be kept. */
  show(gadgetId: string, ready: T): void;
  /** What was shown a moment ago; null where nothing was, or it is too long ago. */
  of(gadgetId: string): T | null;
  /** It was kept: the next press answers what is shown after. */
  answered(gadgetId: string): void;
}

/**
 * What pages were last shown as ready to be kept. Noise may refuse the very next look, of several columns sooner or later: who
 * presses answers what was shown, and that is kept.
 * @param nowMs a clock that only goes on
 */
export function shownReady<T>(nowMs: () => number = () => performance.now()): ShownReady<T> {
  const shown = new Map<string, { readonly ready: T; readonly atMs: number }>();
  return {
    show(gadgetId, ready) {
      shown.set(gadgetId, { ready, atMs: nowMs() });
    },
    of(gadgetId) {
      const last = shown.get(gadgetId);
      return last && nowMs() - last.atMs <= GOOD_MS ? last.ready : null;
    },
    answered(gadgetId) {
      shown.delete(gadgetId);
    },
  };
}
