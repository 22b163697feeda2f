import { Type } from 'typebox';
import { number } from '../stage/params.ts';
import { REASON } from '../stage/contract.ts';
import { streamStage } from '../stage/streamStage.ts';

/** A hair of slack, or the rounding of times would cost a reading. */
const FULL = 1 - 1e-9;

/** Marks readings as bad until the gadget has been on for its warm-up time, counted from the first sample. */
export const warmUp = streamStage<{ warmUpS: number }>({
  kind: 'warm-up',
  title: 'Warm-up',
  summary: 'Marks readings as invalid until the sensor has warmed up',
  role: 'conversion',
  params: Type.Object({ warmUpS: number('Warm-up time', { min: 0, max: 1e6, unit: 's' }) }),
  defaults: { warmUpS: 300 },
  takes: 'at least one column',
  gives: (_params, inputs) => (inputs.length > 0 ? [...inputs] : null),
  names: (_params, names) => [...names],
  start({ warmUpS }) {
    const m = { onS: 0, last: Number.NaN };
    return {
      memory: m,
      step(timeS, inputs, _reason, emit, reasons) {
        // Time that passed, not time of day: a clock set back neither warms nor cools.
        if (timeS > m.last) m.onS += timeS - m.last;
        m.last = timeS;
        if (m.onS < warmUpS * FULL) return emit(timeS, null, REASON.warmingUp);
        emit(timeS, inputs, reasons);
      },
    };
  },
  emitC({ warmUpS }, c, { sampleRateHz }) {
    const calls = c.state('calls', '0');
    const columns = Array.from({ length: c.inputs }, (_, k) => `x[${k}]`);
    const bad = `${columns.join(' = ')} = LN_BAD; return;`;
    const missing = columns.map((x) => `isnan(${x})`);
    // What a stage before has swallowed is no first reading.
    if (c.callsHz !== sampleRateHz) c.line(`if (${calls} < 1 && ${missing.join(' && ')}) return;`);
    const cold = c.constant('CALLS', warmUpS * FULL * c.callsHz, 'calls until warm', true);
    c.line(`if (${calls} < ${cold}) { ${calls} += 1; ${bad} }`);
  },
});
