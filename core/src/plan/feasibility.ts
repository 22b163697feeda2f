import { compileLine, type CompiledLine } from '../line/compile.ts';
import { invertLine } from '../line/invert.ts';
import { slopeAtRest } from '../line/atRest.ts';
import { lineUncertainty } from '../line/uncertainty.ts';
import type { Brief } from '../model/gadget.ts';
import type { LineSpec } from '../model/line.ts';
import { neededRateHz } from '../prove/claims.ts';
import { convertDifference, convertUnit, printSignificant, UNITS } from '../units/index.ts';
import type { BoardPart, SensorPart } from './part.ts';

/** "tight": inside what can work, outside what is wanted. */
export type FitState = 'pass' | 'tight' | 'fail';

export interface PartVerdict {
  readonly check: 'range' | 'resolution' | 'accuracy' | 'true-up' | 'rate' | 'price';
  readonly title: string;
  readonly state: FitState;
  /** The figure found and the limit it is held against, in `unit`. */
  readonly value: number;
  readonly limit: number;
  readonly unit: string;
  readonly sentence: string;
  readonly arithmetic: string;
  /** A failure here puts the part below the line; as-bought accuracy alone does not, true-up can mend it. */
  readonly hard: boolean;
}

export interface Candidate {
  readonly part: SensorPart;
  readonly verdicts: readonly PartVerdict[];
  /** 0 to 100; hard failures rank below every part without one. */
  readonly score: number;
  readonly failed: boolean;
}

export interface PickContext {
  readonly brief: Brief;
  readonly board: BoardPart;
  readonly channels: number;
  /** What the rest of the gadget costs, for the share of the budget that sensors may take. */
  readonly otherCost: number;
  readonly sampleRateHz: number;
}

export type Weights = Readonly<Record<PartVerdict['check'], number>>;

/** Weight of each check in the score, until the maker moves them. */
export const WEIGHTS: Weights = {
  range: 2,
  resolution: 2,
  accuracy: 1,
  'true-up': 3,
  rate: 2,
  price: 2,
};

/** The line a sensor would have on this board, from raw counts to its reading; null for a sensor that sends its own number. */
export function lineForSensor(part: SensorPart, board: BoardPart, column: string): LineSpec | null {
  if (part.signal.kind !== 'analog') return null;
  return {
    sources: [{ column, unit: 'count' }],
    stages: [
      {
        id: 'adc',
        kind: 'adc',
        params: { bits: board.adcBits, referenceV: board.referenceV, gives: 'ratio' },
        uncertainty: {},
        off: false,
      },
      ...part.signal.stages.map((stage) => ({
        ...stage,
        params: { ...stage.params },
        uncertainty: { ...stage.uncertainty },
      })),
    ],
  };
}

/** Judges every sensor of the brief's quantity and ranks them; failed ones stay in the list, last. */
export function rankSensors(
  parts: readonly SensorPart[],
  context: PickContext,
  weights: Weights = WEIGHTS,
): Candidate[] {
  const total = Object.values(weights).reduce((a, b) => a + b, 0);
  if (!(total > 0) || Object.values(weights).some((w) => !(w >= 0)))
    throw new RangeError(`Weights must be 0 or more and not all 0; received ${JSON.stringify(weights)}.`);
  return parts
    .filter((part) => UNITS[part.unit].dimension === UNITS[context.brief.unit].dimension)
    .map((part) => judgeSensor(part, context, weights))
    .sort((a, b) => Number(a.failed) - Number(b.failed) || b.score - a.score);
}

function judgeSensor(part: SensorPart, context: PickContext, weights: Weights): Candidate {
  const spec = lineForSensor(part, context.board, 'raw');
  const line = spec && compileLine(spec, { sampleRateHz: context.sampleRateHz });
  const verdicts = [
    rangeVerdict(part, context.brief),
    resolutionVerdict(part, line, context.brief),
    accuracyVerdict(part, line, context.brief),
    trueUpVerdict(part, context.brief),
    rateVerdict(part, context.brief),
    priceVerdict(part, context),
  ];
  const points = { pass: 1, tight: 0.5, fail: 0 } as const;
  const total = Object.values(weights).reduce((a, b) => a + b, 0);
  const score = (100 * verdicts.reduce((s, v) => s + weights[v.check] * points[v.state], 0)) / total;
  return { part, verdicts, score, failed: verdicts.some((v) => v.hard && v.state === 'fail') };
}

const p = (value: number, digits = 3) => printSignificant(value, digits);

/** Ends of the brief's range in the part's unit. */
function endsOf(part: SensorPart, brief: Brief): [number, number] {
  return [convertUnit(brief.low, brief.unit, part.unit), convertUnit(brief.high, brief.unit, part.unit)];
}

function rangeVerdict(part: SensorPart, brief: Brief): PartVerdict {
  const [low, high] = endsOf(part, brief);
  const symbol = UNITS[part.unit].symbol;
  const span = high - low;
  const spare = Math.min(low - part.low, part.high - high);
  const share = span / (part.high - part.low);
  const state: FitState = spare < 0 ? 'fail' : spare < span * 0.1 || share < 0.2 ? 'tight' : 'pass';
  const sentence =
    spare < 0
      ? `Ends ${p(-spare)} ${symbol} short of the brief.`
      : spare < span * 0.1
        ? `Covers the brief with only ${p(spare)} ${symbol} to spare.`
        : share < 0.2
          ? `The brief uses only ${p(share * 100, 2)} % of its range.`
          : `Covers the brief with ${p(spare)} ${symbol} to spare.`;
  return {
    check: 'range',
    title: 'Range',
    state,
    value: spare,
    limit: span * 0.1,
    unit: symbol,
    sentence,
    arithmetic: `${part.low} to ${part.high} ${symbol} against ${p(low)} to ${p(high)} ${symbol}; 10 % of the span (${p(span * 0.1)} ${symbol}) is wanted to spare at both ends.`,
    hard: true,
  };
}

function resolutionVerdict(part: SensorPart, line: CompiledLine | null, brief: Brief): PartVerdict {
  const symbol = UNITS[part.unit].symbol;
  const wanted = convertDifference(brief.tolerance, brief.unit, part.unit) / 5;
  let step: number;
  let arithmetic: string;
  if (part.signal.kind === 'digital') {
    step = convertDifference(part.signal.step, part.signal.stepUnit, part.unit);
    arithmetic = `Sends steps of ${p(step)} ${symbol}.`;
  } else {
    const noise = part.signal.noiseCounts;
    const lsb = noise > 1 ? 2 * noise : 1;
    const ends = endsOf(part, brief).map((at) => ({
      at,
      slope: Math.abs(slopeAtRest(line!, invertLine(line!, at)[0]!)),
    }));
    const worst = ends[0]!.slope > ends[1]!.slope ? ends[0]! : ends[1]!;
    step = worst.slope * lsb;
    arithmetic = `One code is worth ${p(worst.slope)} ${symbol} at ${p(worst.at)} ${symbol}, the worse end${noise > 1 ? `; noise of ${noise} counts makes the step 2 sd = ${p(lsb)} codes` : ''}.`;
  }
  const state: FitState = step <= wanted ? 'pass' : step <= 2.5 * wanted ? 'tight' : 'fail';
  return {
    check: 'resolution',
    title: 'Resolution at the reading',
    state,
    value: step,
    limit: wanted,
    unit: symbol,
    sentence: `Steps of ${p(step, 2)} ${symbol}; a fifth of the tolerance, ${p(wanted, 2)} ${symbol}, is wanted.`,
    arithmetic: `${arithmetic} Half the tolerance is the most that can work.`,
    hard: true,
  };
}

function accuracyVerdict(part: SensorPart, line: CompiledLine | null, brief: Brief): PartVerdict {
  const symbol = UNITS[part.unit].symbol;
  const limit = convertDifference(brief.tolerance, brief.unit, part.unit);
  const own = (at: number) => {
    const constants = line ? 2 * lineUncertainty(line, invertLine(line, at)[0]!, 0).at(-1)!.systematic : 0;
    return { at, half: Math.hypot(part.accuracyAt(at), constants), constants };
  };
  const worst = endsOf(part, brief)
    .map(own)
    .reduce((a, b) => (b.half > a.half ? b : a));
  const state: FitState = worst.half <= limit ? 'pass' : 'fail';
  return {
    check: 'accuracy',
    title: 'Accuracy as bought',
    state,
    value: worst.half,
    limit,
    unit: symbol,
    sentence: `±${p(worst.half, 2)} ${symbol} at ${p(worst.at)} ${symbol}; ±${p(limit, 2)} ${symbol} is asked.${state === 'fail' ? ' It would need a true-up.' : ''}`,
    arithmetic: line
      ? `Tolerances of its resistor, R0 and beta carried through the line: ±${p(worst.constants, 2)} ${symbol} (k = 2); and ±${p(part.accuracyAt(worst.at), 2)} ${symbol} of its own.`
      : `Sensor and module together at ${p(worst.at)} ${symbol}.`,
    hard: false,
  };
}

function trueUpVerdict(part: SensorPart, brief: Brief): PartVerdict {
  const symbol = UNITS[part.unit].symbol;
  const limit = convertDifference(brief.tolerance, brief.unit, part.unit);
  const state: FitState = part.afterTrueUp > limit ? 'fail' : part.afterTrueUp > limit / 2 ? 'tight' : 'pass';
  return {
    check: 'true-up',
    title: 'Accuracy after true-up',
    state,
    value: part.afterTrueUp,
    limit,
    unit: symbol,
    sentence: `About ±${p(part.afterTrueUp, 2)} ${symbol} can be reached; ±${p(limit, 2)} ${symbol} is asked.`,
    arithmetic:
      'Drift, hysteresis and noise that no calibration takes away, typical of the kind; half the tolerance leaves room for the references.',
    hard: true,
  };
}

function rateVerdict(part: SensorPart, brief: Brief): PartVerdict {
  const needed = neededRateHz(brief);
  const able = 1 / part.readingS;
  const state: FitState = able >= needed ? 'pass' : 'fail';
  return {
    check: 'rate',
    title: 'Rate',
    state,
    value: able,
    limit: needed,
    unit: '/s',
    sentence: `${p(able, 2)} readings a second; ${p(needed, 2)} are needed.`,
    arithmetic: `One reading takes ${p(part.readingS * 1000, 2)} ms. ${brief.fastest.kind === 'ramp' ? `At ${brief.fastest.ratePerS} ${UNITS[brief.unit].symbol}/s the reading may move a fifth of the tolerance between readings.` : 'The brief’s fastest event sets the need.'}`,
    hard: true,
  };
}

function priceVerdict(part: SensorPart, { brief, channels, otherCost }: PickContext): PartVerdict {
  const cost = part.price * channels;
  const left = brief.budget === null ? Infinity : brief.budget - otherCost;
  const state: FitState = cost <= left ? 'pass' : 'fail';
  return {
    check: 'price',
    title: 'Price',
    state,
    value: cost,
    limit: left,
    unit: '',
    sentence:
      brief.budget === null
        ? `${cost.toFixed(2)} for ${channels}; the brief sets no budget.`
        : `${cost.toFixed(2)} for ${channels}; ${left.toFixed(2)} of the budget is left.`,
    arithmetic: `${channels} × ${part.price.toFixed(2)}${brief.budget === null ? '' : `; budget ${brief.budget.toFixed(2)} less board and display ${otherCost.toFixed(2)}`}.`,
    hard: true,
  };
}

export interface ComparedCheck {
  readonly title: string;
  readonly cells: readonly {
    readonly partId: string;
    readonly sentence: string;
    readonly state: FitState;
    readonly best: boolean;
  }[];
  /** Whether the parts differ here. */
  readonly differs: boolean;
}

/** Two or three candidates side by side, check by check, the best of each marked where they differ. */
export function compareCandidates(candidates: readonly Candidate[]): ComparedCheck[] {
  if (candidates.length < 2)
    throw new RangeError(`A comparison needs two parts or more; received ${candidates.length}.`);
  const order = { pass: 2, tight: 1, fail: 0 } as const;
  return candidates[0]!.verdicts.map(({ check, title }) => {
    const cells = candidates.map((c) => ({
      partId: c.part.id,
      ...c.verdicts.find((v) => v.check === check)!,
    }));
    const top = Math.max(...cells.map((c) => order[c.state]));
    const differs = new Set(cells.map((c) => c.sentence)).size > 1;
    return {
      title,
      differs,
      cells: cells.map((c) => ({
        partId: c.partId,
        sentence: c.sentence,
        state: c.state,
        best: differs && order[c.state] === top,
      })),
    };
  });
}
