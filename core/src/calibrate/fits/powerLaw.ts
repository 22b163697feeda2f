import type { FitKind } from './fitKind.ts';

/** Factor and exponent of a log-log curve, from known doses. */
export const powerLawFit: FitKind = {
  id: 'power-law',
  title: 'Power law',
  assumes: 'The curve of reading against quantity is a straight line on log-log axes.',
  parameterCount: 2,
  needs: ['power-law'],
  setUp(line) {
    const stage = line.stages.find((s) => s.kind === 'power-law' && !s.off);
    if (!stage) return 'The line has no power-law stage. Add one on the Line page.';
    const factor = Number(stage.params['factor']);
    const exponent = Number(stage.params['exponent']);
    const common = { stageId: stage.id, unit: '' };
    return {
      line,
      targets: [
        { ...common, param: 'factor', title: 'Factor', before: factor, start: factor, scale: factor * 0.01 },
        { ...common, param: 'exponent', title: 'Exponent', before: exponent, start: exponent, scale: 0.01 },
      ],
    };
  },
};
