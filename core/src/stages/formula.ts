import { Type } from 'typebox';
import { text, unitChoice } from '../stage/params.ts';
import { vectorStage } from '../stage/vectorStage.ts';
import type { UnitId } from '../units/index.ts';
import { formulaExpression } from './formulaExpression.ts';

/** A formula of one's own over the columns: x for the first, x2, x3, ... for the others. */
export const formula = vectorStage<{ expression: string; to: string }>({
  kind: 'formula',
  title: 'Custom formula',
  summary: 'Your own formula of the columns: x, or x1, x2, …',
  params: Type.Object({ expression: text('Formula', 300), to: unitChoice() }),
  defaults: { expression: 'x', to: '1' },
  takes: 'as many columns as the formula uses',
  gives: ({ expression, to }, inputs) =>
    inputs.length > 0 && formulaExpression(expression).columns <= inputs.length ? [to as UnitId] : null,
  names: () => ['result'],
  vector({ expression }) {
    const { run } = formulaExpression(expression);
    return {
      forward(values) {
        const y = run(values);
        return [Number.isFinite(y) ? y : Number.NaN];
      },
    };
  },
  emitC({ expression }, c) {
    c.line(`double y = ${formulaExpression(expression).c};`);
    c.line('x[0] = isfinite(y) ? (LN_REAL)y : LN_BAD;');
  },
});
