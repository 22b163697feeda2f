import { Type } from 'typebox';
import { effectiveCount, mean, sampleSd, shortWay } from '../../numerics/index.ts';
import { number } from '../../stage/params.ts';
import { circularMeanOf } from '../circular.ts';
import { figure, none, type FigureKind } from '../kind.ts';
import { emptyWindow, takeReading, within } from '../window.ts';

/** Mean of the readings; of directions the mean direction. */
export const meanReading: FigureKind<{ windowS: number }> = {
  kind: 'mean',
  title: 'Mean',
  summary: 'Mean of the readings; for directions, the mean direction (also across north)',
  params: Type.Object({
    windowS: number('Over the last (0 = since reset)', { min: 0, max: 1e6, unit: 's' }),
  }),
  defaults: { windowS: 60 },
  roles: {},
  others: [],
  levels: [],
  unit: (_params, input) => input,
  start({ windowS }, { isDirection, budget }) {
    const m = emptyWindow();
    return {
      memory: m,
      reading: (t, x) => takeReading(m, t, x, windowS),
      now() {
        const { x, t } = within(m, windowS);
        if (x.length < 2) return none('Waiting for readings.');
        const { mean: value, sd } = isDirection ? circularMeanOf(x) : { mean: mean(x), sd: sampleSd(x) };
        if (Number.isNaN(value)) return none('The directions cancel out, so there is no mean.');
        const around = isDirection ? x.map((v) => shortWay(value, v)) : x;
        const n = effectiveCount(around);
        const u = Math.hypot(budget(value).systematic, sd / Math.sqrt(Math.max(1, n)));
        return figure(value, u, t.at(-1)!, `${x.length} readings over ${(t.at(-1)! - t[0]!).toFixed(1)} s.`);
      },
    };
  },
};
