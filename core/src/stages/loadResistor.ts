import { Type } from 'typebox';
import { number } from '../stage/params.ts';
import { scalarStage } from '../stage/scalarStage.ts';

/**
 * Voltage over a load resistor to the resistance of the element above it, R = RL (Vs / V - 1), for elements whose supply
 * is not the converter's reference (heated gas elements on 5 V before a 3.3 V converter).
 */
export const loadResistor = scalarStage<{ loadOhm: number; supplyV: number }>({
  kind: 'load-resistor',
  title: 'Load resistor',
  summary: 'Converts the voltage across a load resistor to the resistance of the sensor above it',
  params: Type.Object({
    loadOhm: number('Load resistor', { above: 0, max: 1e9, unit: 'ohm' }),
    supplyV: number('Sensor supply voltage', { above: 0, max: 100, unit: 'V' }),
  }),
  defaults: { loadOhm: 10000, supplyV: 5 },
  takes: ['V'],
  gives: () => 'ohm',
  scalar({ loadOhm, supplyV }) {
    return {
      forward: (v) => (v > 0 && v < supplyV ? loadOhm * (supplyV / v - 1) : Number.NaN),
      inverse: (ohm) => (supplyV * loadOhm) / (ohm + loadOhm),
      derivative: (v) => (-loadOhm * supplyV) / (v * v),
    };
  },
  emitC({ loadOhm, supplyV }, c) {
    const supply = c.constant('SUPPLY', supplyV, 'V');
    c.line(`if (!(x > 0 && x < ${supply})) return LN_BAD;`);
    c.line(`x = ${c.constant('LOAD', loadOhm, 'ohm')} * (${supply} / x - 1);`);
  },
});
