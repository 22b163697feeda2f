import { valuesAtRest } from '../../line/atRest.ts';
import { compileLine } from '../../line/compile.ts';
import { fitPolynomial } from '../../numerics/index.ts';
import { BEYOND, CORRECTION, correctionOf } from './correction.ts';
import type { FitKind } from './fitKind.ts';

const WORDS = ['', '', 'A parabola', 'A cubic', 'A polynomial of degree 4'];

/** Replaces the straight correction by a polynomial, valid between the outermost points and a tenth of the span beyond. */
function polynomialCorrection(degree: number): FitKind {
  return {
    id: `polynomial-${degree}`,
    title: `Polynomial, degree ${degree}`,
    assumes: `${WORDS[degree]} through readings and reference values. Not valid beyond its points.`,
    parameterCount: degree + 1,
    needs: CORRECTION,
    setUp(line, context, points, reach) {
      const correction = correctionOf(line, context, points);
      if (typeof correction === 'string') return correction;
      const { stage, unit } = correction;
      const compiled = compileLine(line, context);
      const at = compiled.stages.findIndex((s) => s.spec.id === stage.id);
      const shown = points.map((p) => valuesAtRest(compiled, p.raw)[at]!);
      if (!shown.every(Number.isFinite))
        return 'The line gives no reading at one of the points. Exclude that point.';
      const start = fitPolynomial(
        shown,
        points.map((p) => p.reference),
        degree,
      );
      const wide = reach.map((p) => valuesAtRest(compiled, p.raw)[at]!).filter(Number.isFinite);
      const margin = BEYOND * (Math.max(...wide) - Math.min(...wide));
      const size = Math.max(...shown.map(Math.abs), 1e-9);
      const params = {
        coefficients: start.coefficients,
        low: Math.min(...wide) - margin,
        high: Math.max(...wide) + margin,
        to: unit,
      };
      return {
        line: {
          ...line,
          stages: line.stages.map((s) =>
            s.id === stage.id ? { ...s, kind: 'polynomial', params, uncertainty: {} } : s,
          ),
        },
        targets: start.coefficients.map((value, k) => ({
          stageId: stage.id,
          param: `coefficients.${k}`,
          title: `Coefficient ${k}`,
          unit: '',
          before: null,
          start: value,
          scale: 0.01 * size ** (1 - k),
        })),
      };
    },
  };
}

export const polynomial2 = polynomialCorrection(2);
export const polynomial3 = polynomialCorrection(3);
export const polynomial4 = polynomialCorrection(4);
