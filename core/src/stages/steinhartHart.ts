import { Type } from 'typebox';
import { scalarStage } from '../stage/scalarStage.ts';

const ZERO_C = 273.15;

/**
 * NTC thermistor by three terms, 1/T = A + B ln R + C (ln R)^3 with T in kelvin and R in ohm; gives degC.
 * Source: Steinhart and Hart, Deep-Sea Research 15 (1968) 497-503.
 */
export const steinhartHart = scalarStage<{ a: number; b: number; c: number }>({
  kind: 'steinhart-hart',
  title: 'Thermistor (Steinhart–Hart)',
  summary: 'Converts resistance to temperature with three constants',
  params: Type.Object({
    a: Type.Number({ minimum: -1, maximum: 1, title: 'A', unit: '1/K' }),
    b: Type.Number({ minimum: -1, maximum: 1, title: 'B', unit: '1/K' }),
    c: Type.Number({ minimum: -1, maximum: 1, title: 'C', unit: '1/K' }),
  }),
  defaults: { a: 1.129241e-3, b: 2.341077e-4, c: 8.775468e-8 },
  takes: ['ohm'],
  gives: () => 'degC',
  scalar({ a, b, c }) {
    const inverseT = (log: number) => a + b * log + c * log ** 3;
    const slope = (log: number) => b + 3 * c * log ** 2;
    return {
      forward(ohm) {
        if (!(ohm > 0)) return Number.NaN;
        const it = inverseT(Math.log(ohm));
        return it > 0 ? 1 / it - ZERO_C : Number.NaN;
      },
      inverse(celsius) {
        const target = 1 / (celsius + ZERO_C);
        let log = b === 0 ? 0 : (target - a) / b;
        // Newton: the cubic term is a small bend on a straight line, so a few steps reach rounding.
        for (let i = 0; i < 60; i++) {
          const step = (inverseT(log) - target) / slope(log);
          log -= step;
          if (Math.abs(step) < 1e-15 * Math.abs(log)) break;
        }
        return Math.exp(log);
      },
      derivative(ohm) {
        const log = Math.log(ohm);
        return -slope(log) / (ohm * inverseT(log) ** 2);
      },
    };
  },
  emitC(params, c) {
    const a = c.constant('A', params.a, '1/K');
    const b = c.constant('B', params.b, '1/K');
    const cubic = c.constant('C', params.c, '1/K');
    c.line('if (!(x > 0)) return LN_BAD;');
    c.line('x = LN_LOG(x);');
    c.line(`x = ${a} + x * (${b} + ${cubic} * x * x);`);
    c.line('if (!(x > 0)) return LN_BAD;');
    c.line(`x = 1 / x - ${c.constant('ZERO_C', ZERO_C, 'K')};`);
  },
});
