import { detectorKind } from '../../detect/index.ts';
import { figureKind } from '../../figures/index.ts';
import type { Ask, Channel } from '../../model/gadget.ts';
import type { ParamValue } from '../../model/line.ts';
import type { FigureSpec, WatchSpec } from '../../model/watch.ts';

type Params = Readonly<Record<string, ParamValue>>;

/** What counts: a detector with its defaults and what is said otherwise. */
export const watch = (
  id: string,
  name: string,
  kind: string,
  params: Params = {},
  gates: Partial<Pick<WatchSpec, 'column' | 'deadTimeS' | 'after' | 'leastS'>> = {},
): WatchSpec => ({
  id,
  name,
  kind,
  column: null,
  params: { ...detectorKind(kind)!.defaults, ...params },
  deadTimeS: 0,
  after: null,
  leastS: 0,
  ...gates,
});

/** What is made of it. */
export const made = (
  id: string,
  name: string,
  kind: string,
  needs: { readonly [role: string]: string } = {},
  params: Params = {},
  more: Partial<Pick<FigureSpec, 'others' | 'askId'>> = {},
): FigureSpec => ({
  id,
  name,
  kind,
  watches: { ...needs },
  others: [],
  params: { ...figureKind(kind)!.defaults, ...params },
  askId: null,
  ...more,
});

/** A channel with what counts on it, and the figure that its needle shows; its reading when none is named. */
export const counting = (
  channel: Channel,
  watches: WatchSpec[],
  figures: FigureSpec[],
  shows: string | null = null,
): Channel => ({ ...channel, watches, figures, shows });

/** An ask that no sensor feels by itself: it is worked out of what others feel. */
export const workedOut = (
  id: string,
  quantity: string,
  unit: Ask['unit'],
  low: number,
  high: number,
  tolerance: number,
): Ask => ({
  id,
  quantity,
  unit,
  low,
  high,
  tolerance,
  // Slow beside the readings that it is made of, whatever they are.
  fastest: { kind: 'ramp', ratePerS: tolerance / 100 },
  measurand: 'worked out',
  sensed: null,
});
