import type { FigureReading } from '../figures/index.ts';
import type { WatchedEvent } from '../detect/index.ts';
import type { Channel, Gadget } from '../model/gadget.ts';
import type { NowFigure, SeenEvent } from '../model/live.ts';
import { readingDecimals } from '../units/index.ts';
import { toleranceIn } from './briefFor.ts';
import { figureBrief } from './shown.ts';

/** Figures of a channel as they are told: with the digits that they deserve, and what they are judged by. */
export function nowFigures(
  gadget: Gadget,
  channel: Channel,
  readings: readonly FigureReading[],
): NowFigure[] {
  return readings.map(({ id, name, unit, value, u, atS, reason, how, sinceS, isSettling }) => {
    const spec = channel.figures?.find((f) => f.id === id);
    const tolerance = spec ? toleranceIn(figureBrief(gadget, channel, spec), unit) : null;
    const uncertainty = Number.isFinite(u) ? 2 * u : null;
    const has = Number.isFinite(value);
    return {
      id,
      name,
      value: has ? value : null,
      unit,
      uncertainty: has ? uncertainty : null,
      decimals: spec && isCounted(spec.kind) ? 0 : readingDecimals(uncertainty, tolerance),
      reason: has ? null : reason || 'Unknown.',
      how,
      timeS: orNull(atS),
      sinceS: orNull(sinceS),
      tolerance,
      ...(isSettling ? { isSettling } : {}),
    };
  });
}

/** Figures that are whole numbers. */
export const isCounted = (kind: string) => kind === 'count' || kind === 'missed';

/** An event as it is told. */
export const seenEvent = (event: WatchedEvent): SeenEvent => ({
  watchId: event.watchId,
  what: event.what,
  timeS: event.timeS,
  endS: event.endS,
  at: orNull(event.at),
  value: orNull(event.value),
  area: orNull(event.area),
  uTimeS: orNull(event.uTimeS),
  counted: event.counted,
  why: event.why,
});

const orNull = (value: number): number | null => (Number.isFinite(value) ? value : null);
