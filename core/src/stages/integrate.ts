import { Type } from 'typebox';
import { filterStage } from '../stage/filterStage.ts';
import { number } from '../stage/params.ts';
import { integralUnit } from '../units/index.ts';

/**
 * Sum over time by the trapezoid rule, from 0 at the first reading. Any offset left in the reading grows with time; the
 * leak lets it go with a time constant (0: no leak). Kahan's compensation, since days of readings are added up.
 */
export const integrate = filterStage<{ leakS: number }>({
  kind: 'integrate',
  title: 'Integral over time',
  summary: 'Adds up the reading over time (in seconds), with an optional leak against drift',
  linear: false,
  atRest: 'none',
  params: Type.Object({ leakS: number('Leak time constant (0 = no leak)', { min: 0, max: 1e7, unit: 's' }) }),
  defaults: { leakS: 0 },
  takes: 'a quantity that can be integrated (power, current, speed, acceleration, force, turns per second)',
  gives: (_params, unit) => integralUnit(unit) ?? null,
  start({ leakS }, { sampleRateHz }) {
    const half = 0.5 / sampleRateHz;
    const keep = leakS > 0 ? Math.exp(-1 / (leakS * sampleRateHz)) : 1;
    const m = { sum: 0, lost: 0, previous: Number.NaN };
    return {
      memory: m,
      next(x) {
        if (!Number.isNaN(m.previous)) {
          const add = half * (m.previous + x) - m.lost;
          const kept = m.sum * keep;
          const next = kept + add;
          m.lost = next - kept - add;
          m.sum = next;
        }
        m.previous = x;
        return m.sum;
      },
    };
  },
  emitC({ leakS }, c, { sampleRateHz }) {
    const keep = leakS > 0 ? Math.exp(-1 / (leakS * sampleRateHz)) : 1;
    const [sum, lost, previous] = [
      c.state('sum', '0'),
      c.state('lost', '0'),
      c.state('previous', '(LN_WIDE)NAN'),
    ];
    c.line(`if (!isnan(${previous})) {`);
    c.line(
      `  LN_WIDE add = ${c.constant('HALF', 0.5 / sampleRateHz, 's', true)} * (${previous} + x) - ${lost};`,
    );
    c.line(`  LN_WIDE kept = ${sum} * ${c.constant('KEEP', keep, '', true)}, next = kept + add;`);
    c.line(`  ${lost} = next - kept - add; ${sum} = next;`);
    c.line('}');
    c.line(`${previous} = x; x = (LN_REAL)${sum};`);
  },
});
