import { Type } from 'typebox';
import { number, unitChoice } from '../stage/params.ts';
import { scalarStage } from '../stage/scalarStage.ts';
import type { UnitId } from '../units/index.ts';

/** A straight line into another unit: slope x + intercept. */
export const linear = scalarStage<{ slope: number; intercept: number; to: string }>({
  kind: 'linear',
  title: 'Straight line',
  summary: 'Slope and intercept, with any output unit',
  params: Type.Object({ slope: number('Slope'), intercept: number('Intercept'), to: unitChoice() }),
  defaults: { slope: 1, intercept: 0, to: '1' },
  takes: 'any',
  gives: ({ to }) => to as UnitId,
  scalar({ slope, intercept }) {
    if (slope === 0)
      throw new RangeError(
        'Straight line: enter a slope other than 0; at 0 every reading would be the same. Use the calibrated slope.',
      );
    return {
      forward: (x) => slope * x + intercept,
      inverse: (y) => (y - intercept) / slope,
      derivative: () => slope,
    };
  },
  emitC({ slope, intercept }, c) {
    c.line(`x = ${c.constant('SLOPE', slope, '')} * x + ${c.constant('INTERCEPT', intercept, '')};`);
  },
});
