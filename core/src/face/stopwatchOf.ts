import type { NowFigure, SeenEvent } from '../model/live.ts';
import type { FigureSpec } from '../model/watch.ts';
import { printNumber } from '../units/index.ts';
import type { Race } from './widgets/kind.ts';

/** A race that runs is told to a tenth: its digits change too fast for more. */
export const RUNNING_DECIMALS = 1;

/**
 * How a race stands, by what the bench has seen: from the newest start on it runs, until the figure has a result that ended
 * after it. A reset makes it ready again.
 * @param spec a figure that has a start, such as the time between two events
 * @param nowS the gadget's clock; NaN while nothing is heard
 */
export function stopwatchOf(
  spec: FigureSpec,
  now: NowFigure | null,
  events: readonly SeenEvent[],
  nowS: number,
): Race {
  if (Number.isNaN(nowS) || now === null) return { state: 'set', text: null };
  const resetS = now.sinceS ?? -Infinity;
  const start = spec.watches['from'];
  const startS = events.findLast((e) => e.watchId === start && e.counted && e.timeS >= resetS)?.timeS;
  const doneS = now.value !== null ? (now.timeS ?? now.sinceS ?? -Infinity) : -Infinity;
  if (startS !== undefined && !(doneS >= startS))
    return { state: 'running', text: printNumber(Math.max(0, nowS - startS), RUNNING_DECIMALS) };
  return now.value === null
    ? { state: 'ready', text: null }
    : { state: 'result', text: printNumber(now.value, now.decimals) };
}
