import { Type } from 'typebox';
import { number, unitChoice } from '../stage/params.ts';
import { scalarStage } from '../stage/scalarStage.ts';
import type { UnitId } from '../units/index.ts';

/** Absorbance to concentration by a dilution series: c = (A - intercept) / slope * dilution factor of the sample. */
export const concentration = scalarStage<{ slope: number; intercept: number; dilution: number; to: string }>({
  kind: 'concentration',
  title: 'Concentration',
  summary: 'Converts absorbance to concentration, calibrated with a dilution series',
  params: Type.Object({
    slope: number('Absorbance per unit of concentration', { above: 0 }),
    intercept: number('Absorbance at zero concentration', { unit: 'absorbance' }),
    dilution: number('Sample dilution', { min: 1, max: 1e6, unit: '-fold' }),
    to: unitChoice(),
  }),
  defaults: { slope: 0.01, intercept: 0, dilution: 1, to: 'mgL' },
  takes: ['absorbance'],
  gives: ({ to }) => to as UnitId,
  scalar: ({ slope, intercept, dilution }) => ({
    forward: (a) => ((a - intercept) / slope) * dilution,
    inverse: (c) => (c / dilution) * slope + intercept,
    derivative: () => dilution / slope,
  }),
  emitC({ slope, intercept, dilution }, c) {
    c.line(
      `x = (x - ${c.constant('INTERCEPT', intercept, '')}) / ${c.constant('SLOPE', slope, '')} * ${c.constant('DILUTION', dilution, '')};`,
    );
  },
});
