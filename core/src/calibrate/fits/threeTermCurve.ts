import { Matrix, solve } from 'ml-matrix';
import { valuesAtRest } from '../../line/atRest.ts';
import { compileLine } from '../../line/compile.ts';
import { editLine } from '../../line/edits.ts';
import { invertLine } from '../../line/invert.ts';
import type { FitKind } from './fitKind.ts';

const THERMISTORS = ['thermistor-beta', 'steinhart-hart'];

/** Replaces the thermistor's data-sheet curve by three constants found from the points. */
export const threeTermCurve: FitKind = {
  id: 'steinhart-hart',
  title: 'Three-term curve (Steinhart–Hart)',
  assumes:
    'The fixed resistor is close to its nominal value; all three constants of this thermistor’s curve are fitted.',
  parameterCount: 3,
  needs: THERMISTORS,
  setUp(line, context, points) {
    const compiled = compileLine(line, context);
    const index = compiled.stages.findIndex((s) => THERMISTORS.includes(s.spec.kind));
    if (index < 0) return 'The line has no thermistor stage. Add one on the Line page.';
    const stage = compiled.stages[index]!;
    // 1/T is linear in the three constants: an unweighted solution in 1/T is close enough to start the weighted search.
    const rows = points.map((point) => {
      const logOhm = Math.log(valuesAtRest(compiled, point.raw)[index]!);
      const celsius = invertLine(compiled, point.reference)[index + 1]!;
      return { design: [1, logOhm, logOhm ** 3], target: 1 / (celsius + 273.15) };
    });
    if (rows.length < 3 || !rows.every((r) => r.design.every(Number.isFinite) && Number.isFinite(r.target))) {
      return 'At least three valid points at different temperatures are needed.';
    }
    const [a, b, c] = solve(
      new Matrix(rows.map((r) => r.design)),
      Matrix.columnVector(rows.map((r) => r.target)),
      true,
    ).to1DArray();
    const was = (param: string) =>
      stage.spec.kind === 'steinhart-hart' ? Number(stage.spec.params[param]) : null;
    const target = (param: string, start: number, scale: number) => ({
      stageId: stage.spec.id,
      param,
      title: param.toUpperCase(),
      unit: '1/K',
      before: was(param),
      start,
      scale,
    });
    return {
      line: editLine(line, [
        { stageId: stage.spec.id, kind: 'steinhart-hart', params: { a: a!, b: b!, c: c! } },
      ]),
      targets: [target('a', a!, 1e-6), target('b', b!, 1e-7), target('c', c!, 1e-10)],
    };
  },
};
