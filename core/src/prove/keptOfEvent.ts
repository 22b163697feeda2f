import type { CompiledLine } from '../line/compile.ts';
import { eventThrough } from '../line/eventThrough.ts';
import { hasFilterTraits } from '../line/filterTraits.ts';
import type { FastestEvent } from '../model/gadget.ts';
import { worstPeakFraction } from '../numerics/samplingRate.ts';

/**
 * Peak of a half-sine pulse of unit height behind a first-order lag: the maximum over 0..width of
 * (sin wt - wT cos wt + wT exp(-t/T)) / (1 + w^2 T^2), w = pi / width; it lies before the pulse's end.
 */
export function laggedPeak(widthS: number, lagS: number): number {
  if (lagS === 0) return 1;
  const a = (Math.PI / widthS) * lagS;
  let peak = 0;
  for (let k = 1; k <= 400; k++) {
    const angle = (Math.PI * k) / 400;
    peak = Math.max(peak, (Math.sin(angle) - a * Math.cos(angle) + a * Math.exp(-angle / a)) / (1 + a * a));
  }
  return peak;
}

export interface KeptOfEvent {
  /** Shares of the peak of a pulse, or of the swing of a tone, that are left by each, 0 to 1. */
  readonly sensor: number;
  readonly filters: number;
  readonly sampling: number;
  readonly all: number;
}

/**
 * What is left of the brief's pulse or tone behind sensor, sampling and filters; null for events of another kind and where
 * steps are counted before they are sent.
 * @param responseS time constant of the sensor; NaN when not known
 * @param rateHz readings a second as they come
 */
export function keptOfEvent(
  line: CompiledLine,
  event: FastestEvent,
  responseS: number,
  rateHz: number,
): KeptOfEvent | null {
  if ((event.kind !== 'pulse' && event.kind !== 'tone') || line.stages[0]?.kind.addsUp === true) return null;
  const sensor =
    event.kind === 'pulse'
      ? laggedPeak(event.widthS, responseS)
      : 1 / Math.hypot(1, 2 * Math.PI * event.frequencyHz * responseS);
  // Of a tone that lasts, some sample comes near the top: only of a single peak sampling takes something.
  const sampling = event.kind === 'pulse' ? worstPeakFraction(event.widthS, rateHz) : 1;
  const filters = line.stages
    .filter((stage) => hasFilterTraits(stage.kind))
    .reduce((share, stage) => {
      const through = eventThrough(stage.kind, stage.spec.params, stage.context, event);
      return through
        ? share * Math.min(1, highest(through.after, event) / highest(through.before, event))
        : share;
    }, 1);
  return { sensor, filters, sampling, all: sensor * filters * sampling };
}

/** Of a tone once the filter has settled, of a pulse over all. */
function highest(values: Float64Array, event: FastestEvent): number {
  const from = event.kind === 'tone' ? Math.floor((2 * values.length) / 3) : 0;
  return values.subarray(from).reduce((m, v) => Math.max(m, v), 0);
}
