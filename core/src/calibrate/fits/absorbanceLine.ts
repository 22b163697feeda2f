import { valuesAtRest } from '../../line/atRest.ts';
import { compileLine } from '../../line/compile.ts';
import { fitPolynomial } from '../../numerics/index.ts';
import type { FitKind } from './fitKind.ts';

/** The line of a dilution series: absorbance against concentration, turned round for reading. */
export const absorbanceLine: FitKind = {
  id: 'absorbance-line',
  title: 'Dilution line',
  assumes: 'Absorbance is proportional to concentration (Beer–Lambert law), with a small constant offset.',
  parameterCount: 2,
  needs: ['concentration'],
  setUp(line, context, points) {
    const compiled = compileLine(line, context);
    const at = compiled.stages.findIndex((s) => s.spec.kind === 'concentration');
    if (at < 0) return 'The line has no concentration stage. Add one on the Line page.';
    const { spec } = compiled.stages[at]!;
    const dilution = Number(spec.params['dilution']);
    const absorbance = points.map((p) => valuesAtRest(compiled, p.raw)[at]!);
    if (!absorbance.every(Number.isFinite)) return 'A point is saturated or dark. Exclude it.';
    // An ordinary line of absorbance on concentration starts the search on the reading itself.
    const start = fitPolynomial(
      points.map((p) => p.reference / dilution),
      absorbance,
      1,
    );
    const target = (param: string, title: string, unit: string, value: number, scale: number) => ({
      stageId: spec.id,
      param,
      title,
      unit,
      before: Number(spec.params[param]),
      start: value,
      scale,
    });
    const slope = start.coefficients[1]!;
    if (!(slope > 0))
      return 'Absorbance does not rise with concentration. Check the blank, the dark capture and the order of the standards.';
    return {
      line,
      targets: [
        target('slope', 'Absorbance per unit', '', slope, slope * 0.01),
        target('intercept', 'Absorbance at zero concentration', '', start.coefficients[0]!, 0.01),
      ],
    };
  },
};
