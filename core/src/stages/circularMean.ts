import { Type } from 'typebox';
import { filterStage } from '../stage/filterStage.ts';
import { number } from '../stage/params.ts';
import { wrapDegrees } from './heading.ts';

/**
 * Smoothing of a direction: the unit vectors are smoothed, so that 359 and 1 degree give 0, not 180. No number while the
 * vectors cancel (mean length under 1e-6). Source: Mardia and Jupp, Directional Statistics, 2.2.
 */
export const circularMean = filterStage<{ timeConstantS: number }>({
  kind: 'circular-mean',
  title: 'Direction smoothing',
  summary: 'Averages directions without a jump at north',
  linear: false,
  params: Type.Object({ timeConstantS: number('Time constant', { above: 0, max: 1e5, unit: 's' }) }),
  defaults: { timeConstantS: 1 },
  takes: 'a direction in degrees',
  gives: (_params, unit) => (unit === 'deg' ? 'deg' : null),
  start({ timeConstantS }, { sampleRateHz }) {
    const share = 1 - Math.exp(-1 / (timeConstantS * sampleRateHz));
    const rad = Math.PI / 180;
    const m = { c: 0, s: 0, started: false };
    return {
      memory: m,
      next(x) {
        const k = m.started ? share : 1;
        m.started = true;
        m.c += k * (Math.cos(x * rad) - m.c);
        m.s += k * (Math.sin(x * rad) - m.s);
        return Math.hypot(m.c, m.s) < 1e-6 ? Number.NaN : wrapDegrees(Math.atan2(m.s, m.c) / rad);
      },
    };
  },
  emitC({ timeConstantS }, c, { sampleRateHz }) {
    const share = c.constant('SHARE', 1 - Math.exp(-1 / (timeConstantS * sampleRateHz)), '', true);
    const degree = c.constant('DEGREE', Math.PI / 180, 'rad', true);
    const [started, cos, sin] = [c.state('started', '0'), c.state('cos', '0'), c.state('sin', '0')];
    c.line(`LN_WIDE k = ${started} > 0 ? ${share} : 1, a;`);
    c.line(`${started} = 1;`);
    c.line(`${cos} += k * (cos(x * ${degree}) - ${cos}); ${sin} += k * (sin(x * ${degree}) - ${sin});`);
    c.line(`if (sqrt(${cos} * ${cos} + ${sin} * ${sin}) < 1e-6) return LN_BAD;`);
    c.line(`a = fmod(atan2(${sin}, ${cos}) / ${degree}, 360.0);`);
    c.line('x = (LN_REAL)(a < 0 ? a + 360 : a);');
  },
});
