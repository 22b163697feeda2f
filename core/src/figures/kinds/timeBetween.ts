import { Type } from 'typebox';
import { figure, none, type FigureContext, type FigureKind } from '../kind.ts';
import { plusMinus } from '../words.ts';

export interface Lap {
  readonly fromS: number;
  readonly seconds: number;
  readonly u: number;
}

export interface LapMemory {
  from: { timeS: number; u: number } | null;
  last: Lap | null;
}

/** Times from each "from" to the first "to" after it; each end gives its own uncertainty, the clock its share of the whole. */
export function laps({ clockShare }: Pick<FigureContext, 'clockShare'>) {
  const memory: LapMemory = { from: null, last: null };
  return {
    memory,
    take(role: string, timeS: number, u: number): void {
      if (role === 'from') memory.from = { timeS, u };
      else if (memory.from) {
        const { from } = memory;
        const took = timeS - from.timeS;
        memory.last = { fromS: from.timeS, seconds: took, u: Math.hypot(from.u, u, clockShare * took) };
        memory.from = null;
      }
    },
  };
}

/** Time from one event to another. */
export const timeBetween: FigureKind<Record<string, never>> = {
  kind: 'time-between',
  title: 'Time between two events',
  summary: 'Time from start to finish, as in a race',
  params: Type.Object({}),
  defaults: {},
  roles: { from: { title: 'Start', wants: 'begin' }, to: { title: 'Finish', wants: 'end' } },
  others: [],
  levels: [],
  unit: () => 's',
  start(_params, context) {
    const lap = laps(context);
    return {
      memory: lap.memory,
      event: (role, e) => lap.take(role, (role === 'to' ? e.endS : e.timeS) - e.lagS, e.uTimeS),
      now() {
        const { last, from } = lap.memory;
        if (!last) return none(from ? 'Started. Waiting for the finish.' : 'Waiting for the start.');
        const finishS = last.fromS + last.seconds;
        return figure(
          last.seconds,
          last.u,
          finishS,
          `Corrected for filter delay. Uncertainty from start, finish and clock: ${plusMinus(last.u, 's')}.`,
        );
      },
    };
  },
};
