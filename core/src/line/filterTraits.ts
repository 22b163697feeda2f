import type { FastestEvent } from '../model/gadget.ts';
import { REASON, type PrepareContext, type StageKind, type StageParams } from './stage.ts';

export interface FilterTraits {
  /** Mean delay of a slow signal: the centroid of the impulse response, s. */
  readonly delayS: number;
  /** Time until a step stays within 1 % of its end, s. */
  readonly settlingS: number;
  /** Standard deviation out over standard deviation in, for independent noise on each sample. */
  readonly noiseGain: number;
  /** Step response at each sample from the step on, 0 to 1. */
  readonly step: { readonly timesS: Float64Array; readonly values: Float64Array };
}

const MAX_RESPONSE = 200_000;

/**
 * Measures a linear filter by running it: impulse and step from rest. Right for every linear filter without a formula each.
 * @throws {RangeError} when the kind is no linear filter
 */
export function filterTraits(kind: StageKind, params: StageParams, context: PrepareContext): FilterTraits {
  const impulse = impulseResponse(kind, params, context);
  const dt = 1 / context.sampleRateHz;
  let sum = 0;
  let moment = 0;
  let squares = 0;
  const step = new Float64Array(impulse.length);
  impulse.forEach((h, k) => {
    sum += h;
    moment += k * h;
    squares += h * h;
    step[k] = sum;
  });
  const end = step[step.length - 1]!;
  let settled = step.length - 1;
  while (settled > 0 && Math.abs(step[settled - 1]! - end) <= 0.01 * Math.abs(end)) settled--;
  const shown = Math.min(step.length, Math.max(10, Math.ceil(settled * 1.3) + 2));
  return {
    delayS: (moment / sum) * dt,
    settlingS: settled * dt,
    noiseGain: Math.sqrt(squares),
    step: { timesS: Float64Array.from({ length: shown }, (_, k) => k * dt), values: step.slice(0, shown) },
  };
}

function impulseResponse(kind: StageKind, params: StageParams, context: PrepareContext): Float64Array {
  if (!kind.linearFilter)
    throw new RangeError(`${kind.title} is no linear filter, so it has no impulse response.`);
  const length = 1024;
  const runner = kind.prepare(params, context);
  const zeros = () => ({ values: new Float64Array(length), reasons: new Uint8Array(length) });
  const input = { length: 1, times: new Float64Array(length), lanes: [zeros()] };
  const output = { length: 0, times: new Float64Array(length), lanes: [zeros()] };
  // A filter starts from its first sample as if it had always been there: one resting zero, then the impulse.
  runner.run(input, output);
  input.length = length;
  input.lanes[0]!.values[0] = 1;
  input.lanes[0]!.reasons.fill(REASON.ok);
  const pieces: Float64Array[] = [];
  let peak = 0;
  for (let n = 0; n < MAX_RESPONSE; n += length) {
    runner.run(input, output);
    const piece = output.lanes[0]!.values.slice(0, length);
    pieces.push(piece);
    input.lanes[0]!.values[0] = 0;
    const largest = piece.reduce((a, b) => Math.max(a, Math.abs(b)), 0);
    peak = Math.max(peak, largest);
    if (n > 0 && largest < 1e-9 * peak) break;
  }
  const response = new Float64Array(pieces.length * length);
  pieces.forEach((piece, i) => response.set(piece, i * length));
  return response;
}

export interface EventPrice {
  /** Error the filter adds to the event: in the reading's unit for a ramp, a fraction of the peak or amplitude otherwise. */
  readonly amount: number;
  readonly relative: boolean;
}

/** What a filter costs on the brief's fastest event: lag behind a ramp, lost peak of a half-sine pulse, lost amplitude of a tone. */
export function priceOfFilter(
  kind: StageKind,
  params: StageParams,
  context: PrepareContext,
  event: FastestEvent,
): EventPrice {
  if (event.kind === 'ramp') {
    return { amount: event.ratePerS * filterTraits(kind, params, context).delayS, relative: false };
  }
  const h = impulseResponse(kind, params, context);
  if (event.kind === 'tone') {
    let re = 0;
    let im = 0;
    const w = (2 * Math.PI * event.frequencyHz) / context.sampleRateHz;
    h.forEach((v, k) => {
      re += v * Math.cos(w * k);
      im -= v * Math.sin(w * k);
    });
    return { amount: 1 - Math.hypot(re, im), relative: true };
  }
  return { amount: 1 - pulsePeak(h, event.widthS * context.sampleRateHz), relative: true };
}

/** Highest output for a half-sine of height 1 that is `width` samples wide and peaks on a sample. */
function pulsePeak(h: Float64Array, width: number): number {
  const half = Math.floor(width / 2);
  let peak = 0;
  for (let n = -half; n <= half + h.length; n++) {
    let sum = 0;
    for (let k = Math.max(0, n - half); k < h.length && n - k >= -half; k++) {
      sum += h[k]! * Math.cos((Math.PI * (n - k)) / width);
    }
    if (sum > peak) peak = sum;
    else if (n > half && sum < 0.5 * peak) break;
  }
  return peak;
}
