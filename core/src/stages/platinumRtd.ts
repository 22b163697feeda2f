import { Type } from 'typebox';
import { number } from '../stage/params.ts';
import { scalarStage } from '../stage/scalarStage.ts';

/** IEC 60751:2022, 5.1: R = R0 (1 + A t + B t^2 + C (t - 100) t^3), C only below 0 degC; valid -200 to 850 degC. */
const A = 3.9083e-3;
const B = -5.775e-7;
const C = -4.183e-12;

/** Platinum resistance over R0 at a temperature in degC. */
function ratioAt(t: number): number {
  return 1 + t * (A + t * (B + (t < 0 ? C * (t - 100) * t : 0)));
}

function slopeAt(t: number): number {
  return A + 2 * B * t + (t < 0 ? C * (4 * t - 300) * t * t : 0);
}

/** Resistance of a platinum element to its temperature, degC. Above 0 by the quadratic, below by Newton's steps from it. */
export const platinumRtd = scalarStage<{ r0Ohm: number }>({
  kind: 'platinum-rtd',
  title: 'Platinum RTD',
  summary: 'Converts resistance to temperature with the standard curve (IEC 60751)',
  params: Type.Object({ r0Ohm: number('Resistance at 0 °C', { above: 0, max: 1e5, unit: 'ohm' }) }),
  defaults: { r0Ohm: 100 },
  takes: ['ohm'],
  gives: () => 'degC',
  scalar({ r0Ohm }) {
    const lowest = r0Ohm * ratioAt(-200);
    const highest = r0Ohm * ratioAt(850);
    const celsius = (ohm: number) => {
      const ratio = ohm / r0Ohm;
      let t = (-A + Math.sqrt(A * A - 4 * B * (1 - ratio))) / (2 * B);
      if (t < 0) for (let i = 0; i < 6; i++) t -= (ratioAt(t) - ratio) / slopeAt(t);
      return t;
    };
    return {
      forward: (ohm) => (ohm >= lowest && ohm <= highest ? celsius(ohm) : Number.NaN),
      inverse: (t) => (t >= -200 && t <= 850 ? r0Ohm * ratioAt(t) : Number.NaN),
      derivative: (ohm) => 1 / (r0Ohm * slopeAt(celsius(ohm))),
    };
  },
  emitC({ r0Ohm }, c) {
    const r0 = c.constant('R0', r0Ohm, 'ohm', true);
    const [a, b, cubic] = [
      c.constant('A', A, '', true),
      c.constant('B', B, '', true),
      c.constant('C', C, '', true),
    ];
    c.line(`LN_WIDE r = x / ${r0}, t;`);
    c.line(
      `if (!(r >= ${c.constant('LOWEST', ratioAt(-200), '')} && r <= ${c.constant('HIGHEST', ratioAt(850), '')})) return LN_BAD;`,
    );
    c.line(`t = (-${a} + sqrt(${a} * ${a} - 4 * ${b} * (1 - r))) / (2 * ${b});`);
    c.line(
      `if (t < 0) for (int i = 0; i < 6; i++) t -= (1 + t * (${a} + t * (${b} + ${cubic} * (t - 100) * t)) - r) / (${a} + 2 * ${b} * t + ${cubic} * (4 * t - 300) * t * t);`,
    );
    c.line('x = (LN_REAL)t;');
  },
});
