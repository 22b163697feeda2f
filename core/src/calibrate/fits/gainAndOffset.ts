import { compileLine } from '../../line/compile.ts';
import { UNITS } from '../../units/index.ts';
import type { FitKind } from './fitKind.ts';

/** A straight line between shown and true value. */
export const gainAndOffset: FitKind = {
  id: 'gain-offset',
  title: 'Gain and offset',
  assumes: 'The error grows evenly along the scale: a straight line through shown and true values.',
  parameterCount: 2,
  setUp(line, context, points) {
    const stage = line.stages.find((s) => s.kind === 'gain-offset' && !s.off);
    if (!stage) return 'The line has no gain-and-offset stage. Add one on the Line page.';
    const gain = Number(stage.params['gain']);
    const offset = Number(stage.params['offset']);
    const span = Math.max(...points.map((p) => Math.abs(p.reference)), 1);
    const symbol = UNITS[compileLine(line, context).outputs[0]!.unit].symbol;
    return {
      line,
      targets: [
        { stageId: stage.id, param: 'gain', title: 'Gain', unit: '', before: gain, start: gain, scale: 0.01 },
        {
          stageId: stage.id,
          param: 'offset',
          title: 'Offset',
          unit: symbol,
          before: offset,
          start: offset,
          scale: span * 0.01,
        },
      ],
    };
  },
};
