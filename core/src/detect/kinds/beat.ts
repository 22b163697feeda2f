import { Type } from 'typebox';
import { number } from '../../stage/params.ts';
import { beats, noBeats, type Beat } from '../beats.ts';
import { detectAll } from '../detector.ts';
import { inWords, toThree } from '../inWords.ts';
import { moment, type DetectorKind, type Finding, type Trace } from '../kind.ts';
import { smallestOf } from '../smallestOf.ts';
import { timingU } from '../timingU.ts';
import { traceTraits } from '../traceTraits.ts';

type BeatParams = { level: number; minHeight: number; refractoryS: number; memoryS: number };

/** Beats and strokes by a level that follows their size. */
export const beat: DetectorKind<BeatParams> = {
  kind: 'beat',
  title: 'Beat or stroke',
  summary: 'Rises that come again and again, by a level that follows their size',
  looksAt: 'reading',
  params: Type.Object({
    level: number('At, of its height', { above: 0, below: 1 }),
    minHeight: number('Height at least', { min: 0 }),
    refractoryS: number('Not again within', { min: 0, max: 1e4, unit: 's' }),
    memoryS: number('Follows the size within', { above: 0, max: 1e5, unit: 's' }),
  }),
  defaults: { level: 0.5, minHeight: 0, refractoryS: 0.3, memoryS: 4 },
  levels: ['minHeight'],
  start({ level, minHeight, refractoryS, memoryS }, { noise, sampleRateHz }, emit) {
    const memory = { beats: noBeats(), before: Number.NaN };
    const finder = beats(
      { level, minHeight, refractoryS, memoryS },
      ({ timeS, height }) => {
        const { low, x0 } = memory.beats;
        const at = low + level * height;
        // The envelope was moved before: what is left is how steep the signal was.
        const u = timingU(1 / sampleRateHz, 2 * (at - x0), x0 - memory.before, noise);
        emit(moment(timeS, at, height, u));
      },
      memory.beats,
    );
    return {
      memory,
      push(t, x) {
        const { x0 } = memory.beats;
        finder.push(t, x);
        memory.before = x0;
      },
    };
  },
  find,
};

/** A share of the usual interval that no early beat undercuts. */
const REFRACTORY = 0.35;

function find(trace: Trace): Finding {
  const traits = traceTraits(trace);
  if (!traits) return { problem: 'Twenty readings are needed, with a few beats among them.' };
  const { noise, times, values, sampleRateHz } = traits;
  const slow = Number.isFinite(trace.slowestHz) && trace.slowestHz > 0 ? 1 / trace.slowestHz : Number.NaN;
  const fast = Number.isFinite(trace.fastestHz) && trace.fastestHz > 0 ? 1 / trace.fastestHz : Number.NaN;
  const lengthS = times.at(-1)! - times[0]!;
  // First with hardly a limit but the size: half of what the signal spans, and no beat closer than the brief's fastest.
  const rough = {
    level: 0.5,
    refractoryS: Number.isFinite(fast) ? fast / 2 : 2 / sampleRateHz,
    memoryS: Math.min(Number.isFinite(slow) ? 4 * slow : lengthS / 4, Math.max(lengthS / 3, 2)),
    minHeight: Math.max(8 * noise, (traits.high - traits.low) / 3),
  };
  let found = seen(rough);
  if (found.length < 4)
    return { problem: 'Fewer than four beats stand out of the noise: let some more come.' };
  // The usual interval, and a memory that suits it: then again.
  const usual = usualInterval(found);
  const memoryS = toThree(4 * usual);
  const refractoryS = toThree(Math.min(REFRACTORY * usual, Number.isFinite(fast) ? 0.8 * fast : Infinity));
  found = seen({ ...rough, memoryS, refractoryS });
  const smallest = smallestOf(found.map((b) => b.height));
  if (smallest === null) return { problem: 'Fewer than three beats are alike: let some more come.' };
  const floor = Math.max(8 * noise, 1e-9);
  const minHeight = toThree(Math.min((floor + smallest) / 2, 0.6 * smallest));
  const { unit } = trace;
  return {
    params: { level: 0.5, minHeight, refractoryS, memoryS },
    deadTimeS: 0,
    why:
      `${inWords(minHeight, unit)}: between the noise, ${inWords(floor, unit)}, and the smallest of ${found.length} beats, ` +
      `${inWords(smallest, unit)}; not again within ${inWords(refractoryS, 's')}, about a third of the usual interval, ${inWords(toThree(usual), 's')}.`,
  };

  function seen(options: BeatParams): Beat[] {
    return detectAll<Beat>((emit) => beats(options, emit), times, values);
  }
}

function usualInterval(found: readonly Beat[]): number {
  const intervals = found.slice(1).map((b, i) => b.timeS - found[i]!.timeS);
  return intervals.toSorted((a, b) => a - b)[intervals.length >> 1]!;
}
