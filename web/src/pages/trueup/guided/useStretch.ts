import { useCallback, useEffect, useState } from 'react';
import type { LiveStretch } from '@lucky-needle/core/model';
import { UNITS, type UnitId } from '@lucky-needle/core/units';
import { useLiveOf } from '../../../live/useLive.ts';

export interface StretchRate {
  /** Mean of the good readings, a second. */
  readonly hz: number;
  /** Standard uncertainty of that mean from the readings' scatter. */
  readonly u: number;
  readonly n: number;
  /** From the first to the last of them, s. */
  readonly seconds: number;
}

/** How often the server is asked what has come together. */
const ASK_MS = 1000;

/** Stretches that were begun: they go on while the page is left, since it is the server that keeps the readings. */
const begun = new Map<string, { readonly startS: number | null; readonly stopped: StretchRate | null }>();

/** Mean rate of a channel as bought over a stretch of the live readings, which the server keeps and sums up. */
export function useStretch(gadgetId: string, channelId: string) {
  const key = `${gadgetId}/${channelId}`;
  const lines = useLiveOf((live) => live.lines);
  const [state, setState] = useState(() => begun.get(key) ?? { startS: null, stopped: null });
  const [running, setRunning] = useState<StretchRate | null>(null);
  const { startS } = state;
  const change = (next: typeof state) => {
    begun.set(key, next);
    setState(next);
  };
  // The line as bought: what a version in use makes of it would hide what is compared.
  const bought = `${channelId}:bought`;
  const asked = lines?.channels.some((c) => c.id === bought) ? bought : channelId;
  const ask = useCallback(
    async (fromS: number): Promise<StretchRate | null> => {
      const response = await fetch(`/api/gadgets/${gadgetId}/stretch?channel=${asked}&fromS=${fromS}`);
      if (!response.ok) return null;
      const { statistics, unit } = (await response.json()) as LiveStretch;
      const { scale } = UNITS[unit as UnitId];
      return (
        statistics && {
          hz: statistics.mean * scale,
          u: statistics.u * scale,
          n: statistics.n,
          seconds: statistics.seconds,
        }
      );
    },
    [gadgetId, asked],
  );
  useEffect(() => {
    if (startS === null) return setRunning(null);
    let current = true;
    const look = () => void ask(startS).then((rate) => current && setRunning(rate));
    look();
    const timer = setInterval(look, ASK_MS);
    return () => {
      current = false;
      clearInterval(timer);
    };
  }, [ask, startS]);
  return {
    startS,
    running,
    stopped: state.stopped,
    start: (fromS: number) => change({ startS: fromS, stopped: null }),
    async stop() {
      if (startS !== null) change({ startS: null, stopped: (await ask(startS)) ?? running });
    },
    forget: () => change({ startS: null, stopped: null }),
  };
}
