import { Type } from 'typebox';
import { number } from '../../stage/params.ts';
import { beats, noBeats, type Beat } from '../beats.ts';
import { baselineRemoved, noBaseline } from '../baseline.ts';
import { beatInC } from '../inC/beatInC.ts';
import { CONFIRMED_BY, notConfirmed } from '../gates.ts';
import { inWords, toThree } from '../inWords.ts';
import { moment, refused, type DetectorKind, type Finding, type Trace } from '../kind.ts';
import { smallestOf } from '../smallestOf.ts';
import { timingU } from '../timingU.ts';
import { traceTraits } from '../traceTraits.ts';

type BeatParams = {
  level: number;
  minHeight: number;
  refractoryS: number;
  memoryS: number;
  baselineS: number;
  n: number;
  m: number;
};

/** The level follows the highest and the lowest readings, which noise moves as well. */
const LEVEL_TOO = 1.3;

/** Beats and strokes by a level that follows their size. */
export const beat: DetectorKind<BeatParams> = {
  kind: 'beat',
  title: 'Beat or stroke',
  summary: 'Repeating rises, found with a threshold that follows their size',
  looksAt: 'reading',
  params: Type.Object({
    level: number('Threshold, share of height', { above: 0, below: 1 }),
    minHeight: number('Minimum height', { min: 0 }),
    refractoryS: number('Minimum interval', { min: 0, max: 1e4, unit: 's' }),
    memoryS: number('Envelope time constant', { above: 0, max: 1e5, unit: 's' }),
    baselineS: number('Baseline time constant (0 = off)', { min: 0, max: 1e5, unit: 's' }),
    ...CONFIRMED_BY,
  }),
  defaults: { level: 0.5, minHeight: 0, refractoryS: 0.3, memoryS: 4, baselineS: 0, n: 1, m: 1 },
  levels: ['minHeight'],
  start({ level, minHeight, refractoryS, memoryS, baselineS, n, m }, { noise, sampleRateHz }, emit) {
    const memory = { beats: noBeats(), baseline: noBaseline() };
    const above = baselineRemoved(baselineS, memory.baseline);
    const finder = beats(
      { level, minHeight, refractoryS, memoryS, fromRest: true, n, m },
      ({ timeS, height, rise, riseBefore, share, grewS }) => {
        const at = memory.beats.low + level * height;
        const ofNoise = timingU(1 / sampleRateHz, rise, riseBefore, LEVEL_TOO * noise(), share);
        const u = Math.hypot(ofNoise, grewS / 2);
        emit(moment(timeS, at + memory.baseline.level, height, u));
      },
      memory.beats,
      (timeS) => {
        const at = memory.beats.low + level * (memory.beats.high - memory.beats.low);
        emit(refused(timeS, at + memory.baseline.level, notConfirmed({ n, m }, 'were above the level')));
      },
    );
    return {
      memory,
      push(t, x) {
        finder.push(t, above(t, x));
      },
    };
  },
  emitC: beatInC,
  find,
};

/** A share of the usual interval that no early beat undercuts. */
const REFRACTORY = 0.35;

/** Baselines that are tried, as shares of the usual interval, slowest first; 0 leaves it. */
const BASELINES = [0, 0.2, 0.1];
/** Levels that are tried, as shares of the height. */
const LEVELS = [0.26, 0.34, 0.42, 0.5, 0.58, 0.66, 0.74];

function find(trace: Trace): Finding {
  const traits = traceTraits(trace);
  if (!traits) return { problem: 'At least 20 readings with a few beats are needed.' };
  const { noise, times, values, sampleRateHz } = traits;
  const slow = Number.isFinite(trace.slowestHz) && trace.slowestHz > 0 ? 1 / trace.slowestHz : Number.NaN;
  const fast = Number.isFinite(trace.fastestHz) && trace.fastestHz > 0 ? 1 / trace.fastestHz : Number.NaN;
  const lengthS = times.at(-1)! - times[0]!;
  // First with hardly a limit but the size: a third of what the signal spans, and no beat closer than the brief's fastest.
  const rough = {
    level: 0.5,
    refractoryS: Number.isFinite(fast) ? fast / 2 : 2 / sampleRateHz,
    memoryS: Math.min(Number.isFinite(slow) ? 4 * slow : lengthS / 4, Math.max(lengthS / 3, 2)),
    minHeight: Math.max(8 * noise, (traits.high - traits.low) / 3),
    baselineS: 0,
    n: 1,
    m: 1,
  };
  const first = seen(rough);
  if (first.length < 4)
    return { problem: 'Fewer than four beats stand out from the noise. Record a few more.' };
  const about = usualInterval(first);
  // A baseline that wanders lifts small waves to the level of large ones: the slowest that leaves the beats regular is taken.
  const tried = BASELINES.map((share) => {
    const baselineS = toThree(share * about);
    const spans = spanOf(baselineS);
    const options = { ...rough, baselineS, minHeight: Math.max(8 * noise, spans / 3), memoryS: 4 * about };
    const runs = LEVELS.map((level) => ({ level, found: seen({ ...options, level }) }));
    const most = Math.max(...runs.map((r) => regularity(r.found)));
    const good = runs.filter((r) => regularity(r.found) >= most - 0.004);
    const middle = good[good.length >> 1]!;
    // The more levels find the same regular beats, the further away is the next small wave.
    return { baselineS, spans, ...middle, worth: most + 0.05 * good.length };
  });
  const best = Math.max(...tried.map((t) => t.worth));
  const { baselineS, spans, level, found: regular } = tried.find((t) => t.worth >= best - 0.004)!;
  // The usual interval, and a memory that suits it: then again.
  const usual = usualInterval(regular);
  const memoryS = toThree(4 * usual);
  const refractoryS = toThree(Math.min(REFRACTORY * usual, Number.isFinite(fast) ? 0.8 * fast : Infinity));
  const found = seen({
    ...rough,
    level,
    baselineS,
    minHeight: Math.max(8 * noise, spans / 3),
    memoryS,
    refractoryS,
  });
  // What came first may have been a small wave: it only tells how high beats are.
  const smallest = smallestOf(found.slice(1).map((b) => b.height));
  if (smallest === null) return { problem: 'Fewer than three beats are similar in size. Record a few more.' };
  const floor = Math.max(8 * noise, 1e-9);
  const minHeight = toThree(Math.min((floor + smallest) / 2, 0.6 * smallest));
  const { unit } = trace;
  return {
    params: { level, minHeight, refractoryS, memoryS, baselineS, n: 1, m: 1 },
    deadTimeS: 0,
    why:
      `Minimum height ${inWords(minHeight, unit)}: between the noise, ${inWords(floor, unit)}, and the smallest of ${found.length} beats, ` +
      `${inWords(smallest, unit)}; minimum interval ${inWords(refractoryS, 's')}, about a third of the usual interval, ${inWords(toThree(usual), 's')}` +
      (baselineS > 0
        ? `; the baseline drifts and is followed with a time constant of ${inWords(baselineS, 's')}.`
        : '.'),
  };

  function seen({ baselineS: within, ...options }: BeatParams): Beat[] {
    const above = baselineRemoved(within);
    const found: Beat[] = [];
    const finder = beats(options, (b) => found.push(b));
    for (let i = 0; i < times.length; i++) finder.push(times[i]!, above(times[i]!, values[i]!));
    return found;
  }

  /** What the signal spans once its baseline is taken away. */
  function spanOf(within: number): number {
    if (within === 0) return traits!.high - traits!.low;
    const above = baselineRemoved(within);
    const sorted = values.map((v, i) => above(times[i]!, v)).sort();
    const at = (p: number) => sorted[Math.round(p * (sorted.length - 1))]!;
    return at(0.99) - at(0.02);
  }
}

function usualInterval(found: readonly Beat[]): number {
  const intervals = found.slice(1).map((b, i) => b.timeS - found[i]!.timeS);
  return intervals.toSorted((a, b) => a - b)[intervals.length >> 1]!;
}

/** Share of the intervals that are neither twice nor half of the usual one; 0 with too few beats. */
function regularity(found: readonly Beat[]): number {
  if (found.length < 4) return 0;
  const usual = usualInterval(found);
  const good = found.slice(1).filter((b, i) => {
    const interval = b.timeS - found[i]!.timeS;
    return interval > 0.55 * usual && interval < 1.5 * usual;
  });
  return good.length / (found.length - 1);
}
