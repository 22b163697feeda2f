import { detectorKind } from '@lucky-needle/core/detect';
import type { SeenEvent, WatchSpec } from '@lucky-needle/core/model';
import type { PlotSeries } from '../plotTypes.ts';

export interface EventOverlay {
  /** Circles where something counted, crosses where it did not, dashed lines at levels. */
  readonly series: readonly PlotSeries[];
  /** Moments that have no place on the reading, by name. */
  readonly marks: readonly { readonly at: number; readonly text: string }[];
}

/** More than these are a wash of ink. */
const MOST_DRAWN = 400;

/**
 * Events as they are drawn over the reading.
 * @param place a moment on the abscissa @param from and to the ends of it
 */
export function eventOverlay(
  watches: readonly WatchSpec[],
  events: readonly SeenEvent[],
  place: (timeS: number) => number,
  from: number,
  to: number,
): EventOverlay {
  const isSeen = (e: SeenEvent) => place(e.timeS) >= from && place(e.timeS) <= to;
  const shown = events.filter((e) => e.what === 'event' && isSeen(e)).slice(-MOST_DRAWN);
  const looksAtReading = (id: string) => {
    const watch = watches.find((w) => w.id === id);
    return watch !== undefined && watch.column === null && detectorKind(watch.kind)?.looksAt !== 'hand';
  };
  const drawn = shown.filter((e) => e.at !== null && looksAtReading(e.watchId));
  const points = (label: string, list: readonly SeenEvent[], style: 'rings' | 'cross'): PlotSeries[] =>
    list.length === 0
      ? []
      : [
          {
            label,
            x: list.map((e) => place(e.timeS)),
            y: list.map((e) => e.at!),
            ink: style === 'rings' ? 'check' : 'muted',
            style,
          },
        ];
  const levels = watches.flatMap((w) => {
    const kind = detectorKind(w.kind);
    return (w.column === null && kind?.drawn?.(w.params)) || [];
  });
  return {
    series: [
      ...watches.flatMap((w) =>
        points(
          w.name,
          drawn.filter((e) => e.watchId === w.id && e.counted),
          'rings',
        ),
      ),
      ...points(
        'ignored',
        drawn.filter((e) => !e.counted),
        'cross',
      ),
      ...levels.map((level): PlotSeries => ({
        label: 'level',
        x: [from, to],
        y: [level, level],
        ink: 'reference',
        style: 'dashed',
      })),
    ],
    marks: shown
      .filter((e) => !looksAtReading(e.watchId) && e.counted)
      .map((e) => ({ at: place(e.timeS), text: watches.find((w) => w.id === e.watchId)?.name ?? '' })),
  };
}
