import { Type } from 'typebox';
import { filterStage } from '../stage/filterStage.ts';
import { choice, number } from '../stage/params.ts';

/** Highest reading so far, let go with a time constant after a hold (0: kept for good). By size if wanted, for blows of either sign. */
export const peakHold = filterStage<{ holdS: number; decayS: number; of: string }>({
  kind: 'peak-hold',
  title: 'Peak hold',
  summary: 'Holds the highest reading, then decays slowly',
  linear: false,
  params: Type.Object({
    holdS: number('Hold time', { min: 0, max: 1e6, unit: 's' }),
    decayS: number('Decay time constant (0 = never)', { min: 0, max: 1e6, unit: 's' }),
    of: choice('Peak of', ['value', 'size']),
  }),
  defaults: { holdS: 2, decayS: 1, of: 'value' },
  start({ holdS, decayS, of }, { sampleRateHz }) {
    const keep = decayS > 0 ? Math.exp(-1 / (decayS * sampleRateHz)) : 1;
    const hold = Math.round(holdS * sampleRateHz);
    const m = { peak: Number.NEGATIVE_INFINITY, since: 0 };
    return {
      memory: m,
      next(x) {
        const v = of === 'size' ? Math.abs(x) : x;
        m.since++;
        // It sinks towards the present reading, not towards zero, which may lie far below anything.
        if (m.since > hold) m.peak = v + (m.peak - v) * keep;
        if (v >= m.peak) {
          m.peak = v;
          m.since = 0;
        }
        return m.peak;
      },
    };
  },
  emitC({ holdS, decayS, of }, c, { sampleRateHz }) {
    const keep = decayS > 0 ? Math.exp(-1 / (decayS * sampleRateHz)) : 1;
    const peak = c.state('peak', '(LN_WIDE)-INFINITY');
    const since = c.state('since', '0');
    c.line(of === 'size' ? 'LN_WIDE v = x < 0 ? -x : x;' : 'LN_WIDE v = x;');
    c.line(`${since} += 1;`);
    c.line(
      `if (${since} > ${c.constant('HOLD', Math.round(holdS * sampleRateHz), 'readings', true)}) ${peak} = v + (${peak} - v) * ${c.constant('KEEP', keep, '', true)};`,
    );
    c.line(`if (v >= ${peak}) { ${peak} = v; ${since} = 0; }`);
    c.line(`x = (LN_REAL)${peak};`);
  },
});
