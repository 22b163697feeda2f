import { withParamAt } from '../../line/paramPath.ts';
import type { LineSpec } from '../../model/line.ts';
import type { FitSetUp } from './fitKind.ts';

/** The line of a set-up with its constants at given values, one a target. */
export function withConstants({ line, targets }: FitSetUp, values: readonly number[]): LineSpec {
  return {
    ...line,
    stages: line.stages.map((stage) => {
      let { params } = stage;
      targets.forEach((target, i) => {
        if (target.stageId === stage.id) params = withParamAt(params, target.param, values[i]!);
      });
      return { ...stage, params };
    }),
  };
}
