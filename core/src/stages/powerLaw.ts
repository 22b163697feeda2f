import { Type } from 'typebox';
import { number, unitChoice } from '../stage/params.ts';
import { scalarStage } from '../stage/scalarStage.ts';
import type { UnitId } from '../units/index.ts';

/** y = factor x^exponent: a straight line on log-log paper, as the curves of heated gas elements are drawn. x above 0. */
export const powerLaw = scalarStage<{ factor: number; exponent: number; to: string }>({
  kind: 'power-law',
  title: 'Power law',
  summary: 'Factor and exponent: a straight line on a log-log plot',
  params: Type.Object({
    factor: number('Factor', { above: 0 }),
    exponent: number('Exponent', { min: -50, max: 50 }),
    to: unitChoice(),
  }),
  defaults: { factor: 1, exponent: 1, to: 'ppm' },
  takes: 'any',
  gives: ({ to }) => to as UnitId,
  scalar({ factor, exponent }) {
    if (exponent === 0)
      throw new RangeError(
        'Power law: enter an exponent other than 0; at 0 every reading would be the same. Calculate it from two points of the curve.',
      );
    return {
      forward: (x) => (x > 0 ? factor * x ** exponent : Number.NaN),
      inverse: (y) => (y > 0 ? (y / factor) ** (1 / exponent) : Number.NaN),
      derivative: (x) => factor * exponent * x ** (exponent - 1),
    };
  },
  emitC({ factor, exponent }, c) {
    c.line('if (!(x > 0)) return LN_BAD;');
    c.line(
      `x = ${c.constant('FACTOR', factor, '')} * (LN_REAL)pow((double)x, (double)${c.constant('EXPONENT', exponent, '')});`,
    );
  },
});
