import { Type } from 'typebox';
import { scalarStage } from '../stage/scalarStage.ts';

const ZERO_C = 273.15;

/**
 * NTC thermistor by the beta equation, 1/T = 1/T0 + ln(R/R0)/B with temperatures in kelvin; gives degC.
 * Two constants: good to a few tenths over 50 K, to some kelvin over 100 K.
 */
export const thermistorBeta = scalarStage<{ r0Ohm: number; t0C: number; betaK: number }>({
  kind: 'thermistor-beta',
  title: 'Thermistor (beta equation)',
  summary: 'Converts resistance to temperature with the beta equation',
  params: Type.Object({
    r0Ohm: Type.Number({ exclusiveMinimum: 0, maximum: 1e9, title: 'Resistance at T0', unit: 'ohm' }),
    t0C: Type.Number({ minimum: -100, maximum: 300, title: 'T0', unit: 'degC' }),
    betaK: Type.Number({ minimum: 100, maximum: 20000, title: 'Beta', unit: 'K' }),
  }),
  defaults: { r0Ohm: 10000, t0C: 25, betaK: 3950 },
  takes: ['ohm'],
  gives: () => 'degC',
  scalar({ r0Ohm, t0C, betaK }) {
    const inverseT0 = 1 / (t0C + ZERO_C);
    const kelvin = (ohm: number) => 1 / (inverseT0 + Math.log(ohm / r0Ohm) / betaK);
    return {
      forward(ohm) {
        if (!(ohm > 0)) return Number.NaN;
        const t = kelvin(ohm);
        return t > 0 ? t - ZERO_C : Number.NaN;
      },
      inverse: (celsius) => r0Ohm * Math.exp(betaK * (1 / (celsius + ZERO_C) - inverseT0)),
      derivative: (ohm) => -(kelvin(ohm) ** 2) / (betaK * ohm),
    };
  },
  emitC({ r0Ohm, t0C, betaK }, c) {
    const r0 = c.constant('R0', r0Ohm, 'ohm');
    const t0 = c.constant('T0', t0C + ZERO_C, 'K');
    const beta = c.constant('BETA', betaK, 'K');
    c.line('if (!(x > 0)) return LN_BAD;');
    c.line(`x = 1 / (1 / ${t0} + LN_LOG(x / ${r0}) / ${beta});`);
    c.line('if (!(x > 0)) return LN_BAD;');
    c.line(`x = x - ${c.constant('ZERO_C', ZERO_C, 'K')};`);
  },
});
