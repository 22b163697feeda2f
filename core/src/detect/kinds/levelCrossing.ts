import { Type } from 'typebox';
import { choice, number } from '../../stage/params.ts';
import { levelInC } from '../inC/levelInC.ts';
import { CONFIRMED_BY, notConfirmed } from '../gates.ts';
import { inWords, toThree } from '../inWords.ts';
import { moment, refused, type DetectorKind } from '../kind.ts';
import { levelCrossings, noCrossings } from '../levelCrossings.ts';
import { timingU } from '../timingU.ts';
import { traceTraits } from '../traceTraits.ts';

/** A reading that passes a level, confirmed by several readings if wanted. */
export const levelCrossing: DetectorKind<{
  level: number;
  hysteresis: number;
  direction: string;
  n: number;
  m: number;
}> = {
  kind: 'level',
  title: 'Level crossing',
  summary: 'The reading crosses a level: rising, falling or either',
  looksAt: 'reading',
  params: Type.Object({
    level: number('Level'),
    hysteresis: number('Hysteresis', { min: 0 }),
    direction: choice('Direction', ['rising', 'falling', 'either']),
    ...CONFIRMED_BY,
  }),
  defaults: { level: 0, hysteresis: 0, direction: 'rising', n: 1, m: 1 },
  levels: ['level', 'hysteresis'],
  start({ level, hysteresis, direction, n, m }, { noise }, emit) {
    const memory = noCrossings();
    const finder = levelCrossings(
      { level, hysteresis, n, m },
      (c) => {
        if (direction !== 'either' && c.direction !== direction) return;
        const u = timingU(c.stepS, c.rise, c.riseBefore, noise(level), (c.timeS - c.beforeS) / c.stepS);
        emit(
          c.confirmed
            ? moment(c.timeS, level, Number.NaN, u)
            : refused(c.timeS, level, notConfirmed({ n, m })),
        );
      },
      memory,
    );
    return { memory, push: finder.push };
  },
  find(trace) {
    const traits = traceTraits(trace);
    if (!traits) return { problem: 'At least 20 readings from both sides of the level are needed.' };
    const { low, high, noise, middle, values } = traits;
    const [least, most] = [Math.min(...low2(values)), Math.max(...low2(values))];
    if (most - least < 10 * noise || most === least)
      return { problem: 'The reading does not change. Let the event happen once.' };
    // What the reading rests at is the middle; the other side is the end that lies further away.
    const falls = middle - least > most - middle;
    const rest = falls ? Math.max(high, middle) : Math.min(low, middle);
    const other = falls ? least : most;
    const level = toThree((rest + other) / 2);
    const hysteresis = toThree(Math.min(Math.abs(other - rest) / 4, Math.max(6 * noise, 0)));
    const { unit } = trace;
    return {
      params: { level, hysteresis, direction: falls ? 'falling' : 'rising', n: 1, m: 1 },
      deadTimeS: 0,
      why: `Level ${inWords(level, unit)}: halfway between rest, ${inWords(rest, unit)}, and ${inWords(other, unit)}. Hysteresis: six times the noise, ${inWords(noise, unit)}.`,
    };
  },
  emitC: levelInC,
  drawn: ({ level }) => [level],
};

/** Means of two neighbours: a single stray reading is no end. */
function low2(values: Float64Array): number[] {
  let [least, most] = [Infinity, -Infinity];
  for (let i = 1; i < values.length; i++) {
    const both = (values[i]! + values[i - 1]!) / 2;
    least = Math.min(least, both);
    most = Math.max(most, both);
  }
  return [least, most];
}
