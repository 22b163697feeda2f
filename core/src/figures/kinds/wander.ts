import { Type } from 'typebox';
import { mean as meanOf, sampleSd, shortWay } from '../../numerics/index.ts';
import { number } from '../../stage/params.ts';
import { circularMeanOf } from '../circular.ts';
import { figure, none, type FigureKind } from '../kind.ts';
import { spreadOf } from '../spreadOf.ts';
import { emptyWindow, takeReading, within } from '../window.ts';

/** How much the reading wanders: its standard deviation, of directions round the circle. */
export const wander: FigureKind<{ windowS: number }> = {
  kind: 'wander',
  title: 'Wander',
  summary: 'Standard deviation of the readings; for directions, around the circle',
  params: Type.Object({
    windowS: number('Over the last (0 = since reset)', { min: 0, max: 1e6, unit: 's' }),
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
        const { mean, sd } = isDirection ? circularMeanOf(x) : { mean: meanOf(x), sd: sampleSd(x) };
        if (sd !== sd) return none('The directions cancel out, so there is no spread around a mean.');
        if (sd === 0) return figure(sd, 0, t.at(-1)!, `Of ${x.length} readings.`);
        const { whole, share } = spreadOf(x.map((v) => (isDirection ? shortWay(mean, v) : v - mean)));
        return figure(whole * sd, whole * sd * share, t.at(-1)!, `Of ${x.length} readings.`);
      },
    };
  },
};
