import { Type } from 'typebox';
import { effectiveCount, sampleSd, shortWay } from '../../numerics/index.ts';
import { number } from '../../stage/params.ts';
import { circularMeanOf } from '../circular.ts';
import { figure, none, type FigureKind } from '../kind.ts';
import { emptyWindow, takeReading, within } from '../window.ts';

/** How much the reading wanders: its standard deviation, of directions round the circle. */
export const wander: FigureKind<{ windowS: number }> = {
  kind: 'wander',
  title: 'Wander',
  summary: 'Standard deviation of the readings, of directions round the circle',
  params: Type.Object({
    windowS: number('Over the last; 0 since the reset', { min: 0, max: 1e6, unit: 's' }),
  }),
  defaults: { windowS: 60 },
  roles: {},
  others: [],
  levels: [],
  unit: (_params, input) => input,
  start({ windowS }, { isDirection }) {
    const m = emptyWindow();
    return {
      memory: m,
      reading: (t, x) => takeReading(m, t, x, windowS),
      now() {
        const { x, t } = within(m, windowS);
        if (x.length < 5) return none('Waiting for readings.');
        const { mean, sd } = isDirection ? circularMeanOf(x) : { mean: 0, sd: sampleSd(x) };
        // Squares hang together less than the readings themselves: by the square of what neighbours have in common.
        const share = effectiveCount(isDirection ? x.map((v) => shortWay(mean, v)) : x) / x.length;
        const common = ((1 - share) / (1 + share)) ** 2;
        const count = Math.max(2, (x.length * (1 - common)) / (1 + common));
        return figure(sd, sd / Math.sqrt(2 * (count - 1)), t.at(-1)!, `Of ${x.length} readings.`);
      },
    };
  },
};
