import { Type } from 'typebox';
import { number } from '../line/params.ts';
import { REASON } from '../line/stage.ts';
import { streamStage } from '../line/streamStage.ts';

/** Marks readings as bad until the gadget has been on for its warm-up time, counted from the first sample. */
export const warmUp = streamStage<{ warmUpS: number }>({
  kind: 'warm-up',
  title: 'Warm-up',
  summary: 'Marks readings as bad until the sensor is warm',
  role: 'conversion',
  params: Type.Object({ warmUpS: number('Warm-up time', { min: 0, max: 1e6, unit: 's' }) }),
  defaults: { warmUpS: 300 },
  takes: 'at least one column',
  gives: (_params, inputs) => (inputs.length > 0 ? [...inputs] : null),
  names: (_params, names) => [...names],
  start({ warmUpS }) {
    let onS = 0;
    let last = Number.NaN;
    return (timeS, inputs, reason, emit) => {
      // Time that passed, not time of day: a clock set back neither warms nor cools.
      if (timeS > last) onS += timeS - last;
      last = timeS;
      if (onS < warmUpS) return emit(timeS, null, REASON.warmingUp);
      emit(timeS, reason === REASON.ok ? inputs : null, reason);
    };
  },
});
