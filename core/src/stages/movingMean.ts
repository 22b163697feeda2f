import { Type } from 'typebox';
import { centredMean } from '../filters/index.ts';
import { filterStage } from '../line/filterStage.ts';
import { whole } from '../line/params.ts';

/**
 * Mean of the last `width` good samples; starts as if the first sample had always been there.
 * The window is summed afresh once a turn of the ring, so rounding cannot build up over days of samples.
 */
export const movingMean = filterStage<{ width: number }>({
  kind: 'moving-mean',
  title: 'Moving mean',
  summary: 'Mean of the last so many readings',
  params: Type.Object({ width: whole('Width', { min: 1, max: 100000, unit: 'readings' }) }),
  defaults: { width: 8 },
  start({ width }) {
    const ring = new Float64Array(width);
    let at = -1;
    let sum = 0;
    return (x) => {
      if (at < 0) {
        ring.fill(x);
        sum = x * width;
        at = 0;
      }
      sum += x - ring[at]!;
      ring[at] = x;
      at = at + 1 === width ? 0 : at + 1;
      if (at === 0) sum = ring.reduce((a, b) => a + b, 0);
      return sum / width;
    };
  },
  zeroPhase: ({ width }, _context, x) => centredMean(x, width % 2 === 1 ? width : width + 1),
  emitC({ width }, c) {
    const ring = c.state('ring', '0', width);
    const at = c.state('at', '-1');
    c.line(`if (${at} < 0) { for (int i = 0; i < ${width}; i++) ${ring}[i] = x; ${at} = 0; }`);
    c.line(`${ring}[(int)${at}] = x;`);
    c.line(`${at} = ${at} + 1 < ${width} ? ${at} + 1 : 0;`);
    c.line(`LN_WIDE sum = 0; for (int i = 0; i < ${width}; i++) sum += ${ring}[i];`);
    c.line(`x = (LN_REAL)(sum / ${width});`);
  },
});
