import type { FitKind } from './fitKind.ts';

/** Solves for the one physical constant most often off its marking: the fixed resistor of the divider. */
export const seriesResistor: FitKind = {
  id: 'series-resistor',
  title: 'Solve series resistor',
  assumes: 'The sensor follows its data sheet; only the fixed resistor is not what its marking says.',
  parameterCount: 1,
  setUp(line) {
    const stage = line.stages.find((s) => s.kind === 'divider' && !s.off);
    if (!stage) return 'The line has no divider, so there is no series resistor to solve for.';
    const value = Number(stage.params['seriesOhm']);
    return {
      line,
      targets: [
        {
          stageId: stage.id,
          param: 'seriesOhm',
          title: 'Series resistor',
          unit: 'Ω',
          before: value,
          start: value,
          scale: value * 0.01,
        },
      ],
    };
  },
};
