import { Type } from 'typebox';
import { number, numbers, unitChoice } from '../stage/params.ts';
import { scalarStage } from '../stage/scalarStage.ts';
import { findRoot } from '../numerics/index.ts';
import type { UnitId } from '../units/index.ts';

/**
 * A polynomial in rising powers, valid between two ends; outside it gives no number, since a polynomial means nothing
 * beyond the points that it was fitted to. Horner's scheme.
 */
export const polynomial = scalarStage<{ coefficients: number[]; low: number; high: number; to: string }>({
  kind: 'polynomial',
  title: 'Polynomial',
  summary: 'Polynomial up to degree 6, valid within its fitted range',
  params: Type.Object({
    coefficients: numbers('Coefficients, lowest power first', 1, 7),
    low: number('Valid from'),
    high: number('Valid to'),
    to: unitChoice(),
  }),
  defaults: { coefficients: [0, 1], low: -1e6, high: 1e6, to: '1' },
  takes: 'any',
  gives: ({ to }) => to as UnitId,
  scalar({ coefficients, low, high }) {
    if (!(low < high))
      throw new RangeError(
        `Polynomial: enter the lower end of the valid range first; received ${low} to ${high}.`,
      );
    const value = (x: number) => coefficients.reduceRight((sum, c) => sum * x + c, 0);
    return {
      forward: (x) => (x >= low && x <= high ? value(x) : Number.NaN),
      inverse: (y) => findRoot((x) => value(x) - y, low, high),
      derivative: (x) => coefficients.reduceRight((sum, c, k) => (k === 0 ? sum : sum * x + k * c), 0),
    };
  },
  emitC({ coefficients, low, high }, c) {
    c.line(
      `if (!(x >= ${c.constant('LOW', low, '')} && x <= ${c.constant('HIGH', high, '')})) return LN_BAD;`,
    );
    const names = coefficients.map((v, k) => c.constant(`C${k}`, v, ''));
    c.line(`x = ${names.reduceRight((sum, name) => (sum === '' ? name : `${name} + x * (${sum})`), '')};`);
  },
});
