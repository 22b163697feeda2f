import { Type } from 'typebox';
import { number } from '../stage/params.ts';
import { REASON } from '../stage/contract.ts';
import { streamStage } from '../stage/streamStage.ts';
import { UNITS } from '../units/index.ts';

/** Drops events that follow the last kept one within the dead time. Takes one row an event, holding its time stamp. */
export const deadTime = streamStage<{ deadTimeS: number }>({
  kind: 'dead-time',
  title: 'Dead time',
  summary: 'Ignores events that follow the previous one too closely',
  role: 'filter',
  params: Type.Object({ deadTimeS: number('Dead time', { above: 0, max: 3600, unit: 's' }) }),
  defaults: { deadTimeS: 0.01 },
  takes: 'one column of time stamps, one row per event',
  gives: (_params, inputs) =>
    inputs.length === 1 && UNITS[inputs[0]!].dimension === 'time' ? [inputs[0]!] : null,
  start({ deadTimeS }) {
    const m = { last: Number.NEGATIVE_INFINITY };
    return {
      memory: m,
      step(timeS, [stamp], reason, emit) {
        if (reason !== REASON.ok) return emit(timeS, null, reason);
        if (timeS >= m.last && timeS - m.last < deadTimeS) return;
        m.last = timeS;
        emit(timeS, [stamp!]);
      },
    };
  },
});
