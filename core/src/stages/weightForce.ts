import { Type } from 'typebox';
import { number } from '../stage/params.ts';
import { scalarStage } from '../stage/scalarStage.ts';

/** Mass that presses, kg, to the force it presses with, N, by the local gravity. */
export const weightForce = scalarStage<{ gravity: number }>({
  kind: 'weight-force',
  title: 'Weight to force',
  summary: 'Converts kilograms to newtons with the local gravity',
  params: Type.Object({ gravity: number('Local gravity', { min: 9.7, max: 9.9, unit: 'mps2' }) }),
  defaults: { gravity: 9.80665 },
  takes: ['kg'],
  gives: () => 'N',
  scalar: ({ gravity }) => ({
    forward: (kg) => kg * gravity,
    inverse: (n) => n / gravity,
    derivative: () => gravity,
  }),
  emitC({ gravity }, c) {
    c.line(`x = x * ${c.constant('GRAVITY', gravity, 'm/s2')};`);
  },
});
