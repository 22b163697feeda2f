import { Type } from 'typebox';
import { vectorStage } from '../stage/vectorStage.ts';

/** Length of the vector that two or three columns of one unit make. */
export const magnitude = vectorStage<Record<string, never>>({
  kind: 'magnitude',
  title: 'Magnitude',
  summary: 'Length of a vector of two or three columns',
  params: Type.Object({}),
  defaults: {},
  takes: 'two or three columns in the same unit',
  gives: (_params, inputs) =>
    (inputs.length === 2 || inputs.length === 3) && inputs.every((unit) => unit === inputs[0])
      ? [inputs[0]!]
      : null,
  names: () => ['magnitude'],
  vector: () => ({ forward: (v) => [Math.sqrt(v.reduce((s, x) => s + x * x, 0))] }),
  emitC(_params, c) {
    const squares = Array.from({ length: c.inputs }, (_, i) => `(double)x[${i}] * x[${i}]`);
    c.line(`x[0] = (LN_REAL)sqrt(${squares.join(' + ')});`);
  },
});
