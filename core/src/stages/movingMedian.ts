import { Type } from 'typebox';
import { centredMedian, sortedWindow } from '../filters/index.ts';
import { filterStage } from '../stage/filterStage.ts';
import { whole } from '../stage/params.ts';
import { emitSortedWindow } from './sortedWindowInC.ts';

/** Median of the last `width` good samples: a spike shorter than half of them leaves no trace. Odd widths only. */
export const movingMedian = filterStage<{ width: number }>({
  kind: 'moving-median',
  title: 'Moving median',
  summary: 'Median of the latest readings: removes spikes, keeps steps',
  linear: false,
  params: Type.Object({ width: whole('Window width (odd)', { min: 1, max: 1001, unit: 'readings' }) }),
  defaults: { width: 5 },
  start({ width }) {
    if (width % 2 === 0)
      throw new RangeError(`Moving median: enter an odd window width; received ${width}. Use ${width + 1}.`);
    const window = sortedWindow(width);
    return {
      memory: window.memory,
      next(x) {
        window.push(x);
        return window.median();
      },
    };
  },
  zeroPhase: ({ width }, _context, x) => centredMedian(x, width),
  emitC({ width }, c) {
    const sorted = emitSortedWindow(width, c);
    c.line(`x = ${sorted}[${(width - 1) / 2}];`);
  },
});
