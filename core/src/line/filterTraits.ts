import { firResponse, type Complex } from '../filters/index.ts';
import type { FastestEvent } from '../model/gadget.ts';
import { seededRandom } from '../numerics/index.ts';
import { stepTraits, type FilterTraits } from '../stage/stepTraits.ts';
import type { CompiledLine } from './compile.ts';
import { REASON, type PrepareContext, type StageKind, type StageParams } from '../stage/contract.ts';

const MAX_RESPONSE = 200_000;

/** Whether delay, settling and noise gain mean something for a kind: filters that come to rest. */
export function hasFilterTraits(kind: StageKind): boolean {
  return kind.role === 'filter' && kind.atRest !== 'none' && (kind.lanewise || kind.traits !== undefined);
}

/**
 * Measures a filter by running it: impulse and step from rest, right for every linear filter without a formula each. A
 * filter that is not linear is measured by its step and by 20,000 draws of seeded normal noise.
 * @throws {RangeError} when the kind is no filter of single columns
 */
export function filterTraits(kind: StageKind, params: StageParams, context: PrepareContext): FilterTraits {
  const known = measured.get(params);
  if (known && known.kind === kind && known.sampleRateHz === context.sampleRateHz) return known.traits;
  const traits = measure(kind, params, context);
  measured.set(params, { kind, sampleRateHz: context.sampleRateHz, traits });
  return traits;
}

/** By parameters, which nobody changes in place: live pages ask for the same ones many times a second. */
const measured = new WeakMap<
  StageParams,
  { readonly kind: StageKind; readonly sampleRateHz: number; readonly traits: FilterTraits }
>();

function measure(kind: StageKind, params: StageParams, context: PrepareContext): FilterTraits {
  if (kind.traits) return kind.traits(params, context);
  if (!hasFilterTraits(kind))
    throw new RangeError(`${kind.title} is not a linear filter, so it has no impulse response.`);
  return kind.linearFilter ? linearTraits(kind, params, context) : measuredTraits(kind, params, context);
}

function linearTraits(kind: StageKind, params: StageParams, context: PrepareContext): FilterTraits {
  const impulse = impulseResponse(kind, params, context);
  const dt = 1 / context.sampleRateHz;
  let sum = 0;
  let moment = 0;
  let squares = 0;
  let energyMoment = 0;
  const step = new Float64Array(impulse.length);
  impulse.forEach((h, k) => {
    sum += h;
    moment += k * h;
    squares += h * h;
    energyMoment += k * h * h;
    step[k] = sum;
  });
  const passes = kind.atRest !== 'zero';
  return {
    delayS: (passes ? moment / sum : energyMoment / squares) * dt,
    noiseGain: Math.sqrt(squares),
    ...stepTraits(step, dt),
  };
}

/** A small step, so that a spike filter takes it for a step and no noise is in the way. */
function measuredTraits(kind: StageKind, params: StageParams, context: PrepareContext): FilterTraits {
  const dt = 1 / context.sampleRateHz;
  const step = responseTo(kind, params, context, () => 1);
  let half = 0;
  while (half < step.length - 1 && step[half]! < step[step.length - 1]! / 2) half++;
  const random = seededRandom(20_000);
  const noise = responseTo(kind, params, context, () => random.normal(), 20_000).slice(2000);
  const mean = noise.reduce((s, v) => s + v, 0) / noise.length;
  const variance = noise.reduce((s, v) => s + (v - mean) ** 2, 0) / (noise.length - 1);
  return { delayS: half * dt, noiseGain: Math.sqrt(variance), ...stepTraits(step, dt) };
}

function impulseResponse(kind: StageKind, params: StageParams, context: PrepareContext): Float64Array {
  if (!kind.linearFilter)
    throw new RangeError(`${kind.title} is not a linear filter, so it has no impulse response.`);
  return responseTo(kind, params, context, (k) => (k === 0 ? 1 : 0));
}

/** Runs a filter on one resting zero, then on the signal, until its output no longer changes or for `length` samples. */
export function responseTo(
  kind: StageKind,
  params: StageParams,
  context: PrepareContext,
  signal: (k: number) => number,
  samples?: number,
): Float64Array {
  const length = 1024;
  const runner = kind.prepare(params, context);
  const zeros = () => ({ values: new Float64Array(length), reasons: new Uint8Array(length) });
  const input = { length: 1, times: new Float64Array(length), lanes: [zeros()] };
  const output = { length: 0, times: new Float64Array(length), lanes: [zeros()] };
  // A filter starts from its first sample as if it had always been there: one resting zero, then the signal.
  runner.run(input, output);
  input.length = length;
  input.lanes[0]!.reasons.fill(REASON.ok);
  const pieces: Float64Array[] = [];
  let size = 0;
  for (let n = 0; n < (samples ?? MAX_RESPONSE); n += length) {
    for (let i = 0; i < length; i++) input.lanes[0]!.values[i] = signal(n + i);
    runner.run(input, output);
    const piece = output.lanes[0]!.values.map((v) => (Number.isNaN(v) ? 0 : v));
    pieces.push(piece);
    const last = piece[length - 1]!;
    size = piece.reduce((m, v) => Math.max(m, Math.abs(v)), size);
    const moving = piece.reduce((m, v) => Math.max(m, Math.abs(v - last)), 0);
    if (samples === undefined && n > 0 && moving < 1e-9 * size) break;
  }
  const response = new Float64Array(pieces.length * length);
  pieces.forEach((piece, i) => response.set(piece, i * length));
  return response;
}

/**
 * Complex gain of a filter at each frequency: by its formula, or from its impulse response. Null when it is not linear.
 * @param frequenciesHz each from 0 to half the rate
 */
export function frequencyResponse(
  kind: StageKind,
  params: StageParams,
  context: PrepareContext,
  frequenciesHz: readonly number[],
): Complex[] | null {
  if (!kind.linearFilter) return null;
  const { response } = kind;
  if (response) return frequenciesHz.map((f) => response(params, context, f));
  const h = impulseResponse(kind, params, context);
  return frequenciesHz.map((f) => firResponse(h, f, context.sampleRateHz));
}

export interface EventPrice {
  /** Error the filter adds to the event: in the reading's unit for a ramp, a fraction of the peak or amplitude otherwise. */
  readonly amount: number;
  readonly relative: boolean;
}

/**
 * What a filter costs on the brief's fastest event: lag behind a ramp, lost peak of a half-sine pulse, lost amplitude of a tone. Null for
 * what is timed by edges: a delay that is the same for all of them falls out.
 */
export function priceOfFilter(
  kind: StageKind,
  params: StageParams,
  context: PrepareContext,
  event: FastestEvent,
): EventPrice | null {
  if (event.kind === 'crossing' || event.kind === 'edges') return null;
  if (event.kind === 'ramp') {
    return { amount: event.ratePerS * filterTraits(kind, params, context).delayS, relative: false };
  }
  const rate = context.sampleRateHz;
  const shape = (k: number) =>
    event.kind === 'tone'
      ? Math.sin((2 * Math.PI * event.frequencyHz * k) / rate)
      : k < event.widthS * rate
        ? Math.sin((Math.PI * k) / (event.widthS * rate))
        : 0;
  if (event.kind === 'tone' && kind.linearFilter) {
    const [h] = frequencyResponse(kind, params, context, [event.frequencyHz])!;
    return { amount: 1 - Math.hypot(h!.re, h!.im), relative: true };
  }
  // A pulse whose peak falls on a sample, so that only the filter is charged, not the sampling.
  const width = event.kind === 'pulse' ? event.widthS * rate : rate / event.frequencyHz;
  const shift = width / 2 - Math.floor(width / 2);
  const out = responseTo(kind, params, context, (k) => shape(k + shift), Math.ceil(width) + 4096);
  const from = event.kind === 'tone' ? 2048 : 0;
  const peak = out.slice(from).reduce((m, v) => Math.max(m, v), 0);
  return { amount: 1 - peak, relative: true };
}

/** What the filters of a line come to together: noise left over of noise in, and seconds of delay. */
export function filterTotals(line: CompiledLine): { noiseGain: number; delayS: number } {
  const totals = { noiseGain: 1, delayS: 0 };
  for (const { kind, spec, context } of line.stages) {
    if (!hasFilterTraits(kind)) continue;
    const traits = filterTraits(kind, spec.params, context);
    totals.noiseGain *= traits.noiseGain;
    totals.delayS += traits.delayS;
  }
  return totals;
}
