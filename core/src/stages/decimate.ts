import { Type } from 'typebox';
import { stepTraits } from '../stage/stepTraits.ts';
import { choice, whole } from '../stage/params.ts';
import { REASON } from '../stage/contract.ts';
import { streamStage } from '../stage/streamStage.ts';

/**
 * Every n-th sample, or the mean of each n: the mean also keeps part of what is faster from folding down. A group with a bad
 * sample gives the mean of its good ones; a group without any gives none, with the last reason. Time is that of the last sample.
 */
export const decimate = streamStage<{ factor: number; keep: string }>({
  kind: 'decimate',
  title: 'Decimation',
  summary: 'Reduces the rate: one reading out of several, as their mean or the last one',
  role: 'filter',
  params: Type.Object({
    factor: whole('One reading out of every', { min: 2, max: 100000, unit: 'readings' }),
    keep: choice('Method', ['mean', 'last']),
  }),
  defaults: { factor: 10, keep: 'mean' },
  takes: 'at least one column',
  gives: (_params, inputs) => (inputs.length > 0 ? [...inputs] : null),
  names: (_params, names) => [...names],
  rateOut: ({ factor }, rate) => rate / factor,
  start({ factor, keep }, _context, inputs) {
    const m = { sums: new Float64Array(inputs), good: new Int32Array(inputs), taken: 0 };
    return {
      memory: m,
      step(timeS, values, _reason, emit, reasons) {
        const { sums, good } = m;
        m.taken++;
        values.forEach((v, k) => {
          if (Number.isNaN(v)) return;
          sums[k] = keep === 'mean' ? sums[k]! + v : v;
          good[k] = keep === 'mean' ? good[k]! + 1 : 1;
        });
        if (m.taken < factor) return;
        const out = Array.from(sums, (sum, k) => (good[k]! > 0 ? sum / good[k]! : Number.NaN));
        emit(
          timeS,
          out,
          reasons.map((reason) => (reason === REASON.ok ? REASON.missing : reason)),
        );
        sums.fill(0);
        good.fill(0);
        m.taken = 0;
      },
    };
  },
  traits({ factor, keep }, { sampleRateHz }) {
    const dt = 1 / sampleRateHz;
    const mean = keep === 'mean';
    const step = Float64Array.from({ length: factor + 1 }, (_, k) =>
      mean ? Math.min(1, (k + 1) / factor) : 1,
    );
    return {
      delayS: mean ? ((factor - 1) / 2) * dt : 0,
      noiseGain: mean ? 1 / Math.sqrt(factor) : 1,
      ...stepTraits(step, dt),
    };
  },
  comes: ({ factor }) => `for every ${factor} input readings`,
  emitC({ factor, keep }, c) {
    const columns = Array.from({ length: c.inputs }, (_, k) => ({
      x: `x[${k}]`,
      sum: c.state(`sum${k}`, '0'),
      good: c.state(`good${k}`, '0'),
    }));
    const taken = c.state('taken', '0');
    c.line(`${taken} += 1;`);
    for (const { x, sum, good } of columns)
      c.line(
        keep === 'mean'
          ? `if (!isnan(${x})) { ${sum} += ${x}; ${good} += 1; }`
          : `if (!isnan(${x})) { ${sum} = ${x}; ${good} = 1; }`,
      );
    c.line(`if (${taken} < ${factor}) { ${columns.map(({ x }) => `${x} = `).join('')}LN_BAD; return; }`);
    for (const { x, sum, good } of columns)
      c.line(`${x} = ${good} > 0 ? (LN_REAL)(${sum} / ${good}) : LN_BAD; ${sum} = ${good} = 0;`);
    c.line(`${taken} = 0;`);
  },
});
