import { Type } from 'typebox';
import { centredMean } from '../filters/index.ts';
import { filterStage } from '../stage/filterStage.ts';
import { whole } from '../stage/params.ts';

/**
 * Mean of the last `width` good samples; starts as if the first sample had always been there.
 * The window is summed afresh once a turn of the ring, so rounding cannot build up over days of samples.
 */
export const movingMean = filterStage<{ width: number }>({
  kind: 'moving-mean',
  title: 'Moving mean',
  summary: 'Mean of the latest readings',
  params: Type.Object({ width: whole('Window width', { min: 1, max: 100000, unit: 'readings' }) }),
  defaults: { width: 8 },
  start({ width }) {
    const m = { ring: new Float64Array(width), at: -1, sum: 0 };
    return {
      memory: m,
      next(x) {
        if (m.at < 0) {
          m.ring.fill(x);
          m.sum = x * width;
          m.at = 0;
        }
        m.sum += x - m.ring[m.at]!;
        m.ring[m.at] = x;
        m.at = m.at + 1 === width ? 0 : m.at + 1;
        if (m.at === 0) m.sum = m.ring.reduce((a, b) => a + b, 0);
        return m.sum / width;
      },
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
