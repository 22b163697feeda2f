import { Type } from 'typebox';
import { beats } from '../detect/beats.ts';
import { choice, number, whole } from '../line/params.ts';
import { REASON } from '../line/stage.ts';
import { streamStage } from '../line/streamStage.ts';
import { UNITS, type UnitId } from '../units/index.ts';

interface BeatParams {
  over: number;
  shortestS: number;
  memoryS: number;
  minHeight: number;
  to: string;
  [name: string]: number | string;
}

/**
 * Beats of a wave to a rate: rising crossings of a level that follows the wave's own height, and the time that so many of
 * them take. Gives a reading at each beat once there are enough. A beat that comes too soon is passed over as a double; bad
 * samples begin the count anew, since a beat may be lost among them.
 */
export const beatRate = streamStage<BeatParams>({
  kind: 'beat-rate',
  title: 'Rate of beats',
  summary: 'Beats of a wave to a rate, by a level that follows its height',
  role: 'conversion',
  params: Type.Object({
    over: whole('Over how many beats', { min: 1, max: 1000 }),
    shortestS: number('Shortest time between beats', { above: 0, max: 60, unit: 's' }),
    memoryS: number('Forgets its height within', { above: 0, max: 600, unit: 's' }),
    minHeight: number('Least height of a beat', { min: 0 }),
    to: choice('Gives', ['perMin', 'Hz', 'rpm']),
  }),
  defaults: { over: 10, shortestS: 0.4, memoryS: 4, minHeight: 0.05, to: 'perMin' },
  takes: 'one column of a wave',
  gives: ({ to }, inputs) => (inputs.length === 1 ? [to as UnitId] : null),
  start({ over, shortestS, memoryS, minHeight, to }) {
    let stamps: number[] = [];
    const detector = () =>
      beats({ refractoryS: shortestS, memoryS, level: 0.5, minHeight }, (beat) => stamps.push(beat.timeS));
    let wave = detector();
    return (timeS, [x], reason, emit) => {
      if (reason !== REASON.ok) {
        stamps = [];
        wave = detector();
        return emit(timeS, null, reason);
      }
      const known = stamps.length;
      wave.push(timeS, x!);
      if (stamps.length === known || stamps.length <= over) return;
      const first = stamps.shift()!;
      emit(timeS, [over / ((stamps.at(-1)! - first) * UNITS[to as UnitId].scale)]);
    };
  },
});
