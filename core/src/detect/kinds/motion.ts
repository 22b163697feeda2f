import { Type } from 'typebox';
import { number } from '../../stage/params.ts';
import { CONFIRMED_BY } from '../gates.ts';
import { inWords, toThree } from '../inWords.ts';
import { begun, moment, type DetectorKind } from '../kind.ts';
import { notRunning, runStartStop } from '../runStartStop.ts';
import { traceTraits } from '../traceTraits.ts';

/** A run from its start on motion to its stop. */
export const motion: DetectorKind<{
  startLevel: number;
  stopLevel: number;
  holdS: number;
  drawnBack: boolean;
  n: number;
  m: number;
}> = {
  kind: 'motion',
  title: 'Motion start and stop',
  summary: 'Starts when the reading rises and stays high, ends when it falls and stays low',
  looksAt: 'reading',
  params: Type.Object({
    startLevel: number('Start level'),
    stopLevel: number('Stop level'),
    holdS: number('Hold time', { min: 0, max: 1e5, unit: 's' }),
    drawnBack: Type.Boolean({ title: 'Extend the start back to rest' }),
    ...CONFIRMED_BY,
  }),
  defaults: { startLevel: 1, stopLevel: 0.5, holdS: 1, drawnBack: true, n: 1, m: 1 },
  levels: ['startLevel', 'stopLevel'],
  start(params, { sampleRateHz, noise }, emit) {
    const memory = { run: notRunning(), startS: Number.NaN };
    const anywhere = 1 / sampleRateHz / Math.sqrt(12);
    const finder = runStartStop(
      { ...params, noise },
      ({ kind, timeS, uTimeS }) => {
        const u = Number.isNaN(uTimeS) ? anywhere : Math.max(uTimeS, anywhere / 10);
        if (kind === 'start') {
          memory.startS = timeS;
          emit(begun(timeS, params.startLevel, u));
        } else {
          const startS = Number.isNaN(memory.startS) ? timeS : memory.startS;
          emit({ ...moment(startS, params.stopLevel, Number.NaN, u), endS: timeS });
        }
      },
      memory.run,
    );
    return { memory, push: finder.push };
  },
  find(trace) {
    const traits = traceTraits(trace);
    if (!traits) return { problem: 'At least 20 readings with one start and stop are needed.' };
    const { values, noise } = traits;
    const sorted = values.slice().sort();
    const [rest, most] = [sorted[Math.round(0.05 * (sorted.length - 1))]!, traits.high];
    if (most - rest < 20 * noise || most === rest)
      return { problem: 'The reading does not change. Let one start and stop happen, with rest before it.' };
    const startLevel = toThree(rest + Math.max(6 * noise, (most - rest) / 10));
    const stopLevel = toThree(rest + Math.max(4 * noise, (most - rest) / 20));
    const { unit } = trace;
    return {
      params: {
        startLevel,
        stopLevel,
        holdS: toThree(Math.max(1, 10 / traits.sampleRateHz)),
        drawnBack: true,
        n: 1,
        m: 1,
      },
      deadTimeS: 0,
      why: `Start level ${inWords(startLevel, unit)}: above rest, ${inWords(rest, unit)}, by six times the noise, ${inWords(noise, unit)}, or by a tenth of the highest reading, ${inWords(most, unit)}, whichever is more.`,
    };
  },
  drawn: ({ startLevel, stopLevel }) => [startLevel, stopLevel],
};
