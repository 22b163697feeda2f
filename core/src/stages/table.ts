import { Type } from 'typebox';
import { choice, number, numbers, unitChoice } from '../stage/params.ts';
import { scalarStage } from '../stage/scalarStage.ts';
import { findRoot, interpolant, INTERPOLANTS, type InterpolantKind } from '../numerics/index.ts';
import type { UnitId } from '../units/index.ts';

/**
 * A curve through pairs of numbers. Outside the pairs it gives no number, unless told to go on: then straight, with the
 * slope at the end, since a cubic runs away, and only up to a bound where one is given.
 */
export const table = scalarStage<{
  xs: number[];
  ys: number[];
  method: string;
  beyond: string;
  low?: number;
  high?: number;
  to: string;
}>({
  kind: 'table',
  title: 'Table',
  summary: 'A curve through pairs of numbers',
  params: Type.Object({
    xs: numbers('Input values', 2, 256),
    ys: numbers('Output values', 2, 256),
    method: choice('Interpolation', INTERPOLANTS),
    beyond: choice('Outside the points', ['no number', 'go on']),
    low: Type.Optional(number('Extrapolate down to')),
    high: Type.Optional(number('Extrapolate up to')),
    to: unitChoice(),
  }),
  defaults: { xs: [0, 1], ys: [0, 1], method: 'linear', beyond: 'no number', to: '1' },
  takes: 'any',
  gives: ({ to }) => to as UnitId,
  scalar({ xs, ys, method, beyond, low: least = -Infinity, high: most = Infinity }) {
    const curve = interpolant(method as InterpolantKind, xs, ys);
    const low = xs[0]!;
    const high = xs.at(-1)!;
    const open = beyond === 'go on';
    return {
      forward(x) {
        if (x >= low && x <= high) return curve.at(x);
        if (!open || !(x >= least && x <= most)) return Number.NaN;
        const end = x < low ? low : high;
        return curve.at(end) + curve.derivative(end) * (x - end);
      },
      inverse(y) {
        for (let i = 0; i + 1 < xs.length; i++) {
          if ((ys[i]! - y) * (ys[i + 1]! - y) <= 0)
            return findRoot((x) => curve.at(x) - y, xs[i]!, xs[i + 1]!);
        }
        if (!open) return Number.NaN;
        const inside = (x: number) => (x >= least && x <= most ? x : Number.NaN);
        const below = low + (y - ys[0]!) / curve.derivative(low);
        const above = high + (y - ys.at(-1)!) / curve.derivative(high);
        return below < low ? inside(below) : above > high ? inside(above) : Number.NaN;
      },
      derivative: (x) => curve.derivative(Math.min(high, Math.max(low, x))),
    };
  },
  emitC({ xs, ys, method, beyond, low, high }, c) {
    if (method === 'lagrange')
      throw new RangeError(
        'A table with Lagrange interpolation cannot be exported as C. Choose shape-preserving interpolation (PCHIP).',
      );
    const curve = interpolant(method as InterpolantKind, xs, ys);
    const n = xs.length;
    const x = c.table('X', xs);
    const y = c.table('Y', ys);
    if (beyond !== 'go on') c.line(`if (!(x >= ${x}[0] && x <= ${x}[${n - 1}])) return LN_BAD;`);
    else {
      if (low !== undefined) c.line(`if (x < ${c.constant('LOW', low, '')}) return LN_BAD;`);
      if (high !== undefined) c.line(`if (x > ${c.constant('HIGH', high, '')}) return LN_BAD;`);
      const slopes = c.table('ENDS', [curve.derivative(xs[0]!), curve.derivative(xs.at(-1)!)]);
      c.line(`if (x < ${x}[0]) return ${y}[0] + ${slopes}[0] * (x - ${x}[0]);`);
      c.line(`if (x > ${x}[${n - 1}]) return ${y}[${n - 1}] + ${slopes}[1] * (x - ${x}[${n - 1}]);`);
    }
    c.line('int k = 0;');
    c.line(`while (k < ${n - 2} && x > ${x}[k + 1]) k++;`);
    c.line(`LN_REAL h = ${x}[k + 1] - ${x}[k], t = x - ${x}[k], m = (${y}[k + 1] - ${y}[k]) / h;`);
    if (method === 'linear') c.line(`x = ${y}[k] + m * t;`);
    else {
      // Every curve here is cubic between its points with a continuous slope, so values and slopes tell all.
      const d = c.table('D', xs.map(curve.derivative));
      c.line(
        `LN_REAL c2 = (3 * m - 2 * ${d}[k] - ${d}[k + 1]) / h, c3 = (${d}[k] + ${d}[k + 1] - 2 * m) / (h * h);`,
      );
      c.line(`x = ${y}[k] + t * (${d}[k] + t * (c2 + t * c3));`);
    }
  },
});
