import { Type } from 'typebox';
import { effectiveCount, mean as meanOf, sampleSd, shortWay } from '../../numerics/index.ts';
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
        const { mean, sd } = isDirection ? circularMeanOf(x) : { mean: meanOf(x), sd: sampleSd(x) };
        // The mean of squares is known as far as they are that count; its root by half of that.
        const around = x.map((v) => (isDirection ? shortWay(mean, v) : v - mean));
        const squares = around.map((v) => v ** 2);
        const count = Math.max(2, effectiveCount(squares));
        const u = sd > 0 ? sampleSd(squares) / (2 * sd * Math.sqrt(count - 1)) : 0;
        // Their mean lies nearer to readings that hang together than where they wander about.
        const few = Math.max(2, effectiveCount(around));
        const whole = Math.sqrt(few / (few - 1));
        return figure(whole * sd, whole * u, t.at(-1)!, `Of ${x.length} readings.`);
      },
    };
  },
};
