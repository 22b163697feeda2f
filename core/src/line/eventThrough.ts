import type { FastestEvent } from '../model/gadget.ts';
import { filterTraits, responseTo } from './filterTraits.ts';
import type { PrepareContext, StageKind, StageParams } from '../stage/contract.ts';

export interface EventThrough {
  readonly timesS: Float64Array;
  readonly before: Float64Array;
  readonly after: Float64Array;
}

const MOST = 4000;

/**
 * The brief's fastest event before and behind a filter, for drawing: a ramp in its own unit from rest, a pulse or a wave of
 * height 1. Null for what is timed by edges.
 */
export function eventThrough(
  kind: StageKind,
  params: StageParams,
  context: PrepareContext,
  event: FastestEvent,
): EventThrough | null {
  const rate = context.sampleRateHz;
  const settling = filterTraits(kind, params, context).settlingS;
  const wanted = spanOf(event, settling);
  if (wanted === null) return null;
  const n = Math.max(16, Math.min(MOST, Math.ceil(wanted * rate)));
  const shape = (k: number) => at(event, k / rate);
  const after = responseTo(kind, params, context, shape, n).subarray(0, n);
  return {
    timesS: Float64Array.from({ length: n }, (_, k) => k / rate),
    before: Float64Array.from({ length: n }, (_, k) => shape(k)),
    after,
  };
}

/** Long enough to see the event and the filter's answer. */
function spanOf(event: FastestEvent, settlingS: number): number | null {
  switch (event.kind) {
    case 'ramp':
      return Math.max(3 * settlingS, 1e-9);
    case 'pulse':
      return 2 * event.widthS + settlingS;
    case 'tone':
      return 3 / event.frequencyHz + settlingS;
    case 'crossing':
    case 'edges':
      return null;
  }
}

function at(event: FastestEvent, t: number): number {
  switch (event.kind) {
    case 'ramp':
      return event.ratePerS * t;
    case 'pulse':
      return t < event.widthS ? Math.sin((Math.PI * t) / event.widthS) : 0;
    case 'tone':
      return Math.sin(2 * Math.PI * event.frequencyHz * t);
    default:
      return 0;
  }
}
