import { Type } from 'typebox';
import { sortedWindow } from '../filters/index.ts';
import { filterStage } from '../stage/filterStage.ts';
import { number, whole } from '../stage/params.ts';
import { emitSortedWindow } from './sortedWindowInC.ts';

/** Turns the median absolute deviation of normal noise into its standard deviation: 1 / quantile(0.75). */
const MAD_TO_SD = 1.482602218505602;

/**
 * Spike removal after Hampel: a reading further from the median of the last `width` than `limit` robust standard deviations
 * is replaced by the median; every other passes untouched. A floor keeps a window of equal readings from calling the next
 * step a spike. Causal: judged by past readings and its own. Odd widths only.
 * Source: Davies and Gather, J. Amer. Statist. Assoc. 88 (1993) 782; Pearson et al., EURASIP J. Adv. Signal Process. 2016:87.
 */
export const hampel = filterStage<{ width: number; limit: number; floor: number }>({
  kind: 'hampel',
  title: 'Spike removal (Hampel)',
  summary: 'Replaces a reading far from the latest readings with their median',
  linear: false,
  params: Type.Object({
    width: whole('Window width (odd)', { min: 3, max: 1001, unit: 'readings' }),
    limit: number('Spike threshold', { min: 0, max: 100, unit: 'sd' }),
    floor: number('Minimum deviation', { min: 0 }),
  }),
  defaults: { width: 9, limit: 4, floor: 0 },
  start({ width, limit, floor }) {
    if (width % 2 === 0)
      throw new RangeError(`Spike removal: enter an odd window width; received ${width}. Use ${width + 1}.`);
    const window = sortedWindow(width);
    return {
      memory: window.memory,
      next(x) {
        window.push(x);
        const median = window.median();
        const allowed = Math.max(floor, limit * MAD_TO_SD * window.medianDeviation());
        return Math.abs(x - median) > allowed ? median : x;
      },
    };
  },
  emitC({ width, limit, floor }, c) {
    const sorted = emitSortedWindow(width, c);
    const half = (width - 1) / 2;
    c.line(`LN_REAL median = ${sorted}[${half}], deviation = 0, allowed;`);
    c.line(`int left = ${half}, right = ${half + 1};`);
    c.line(`for (int k = 0; k <= ${half}; k++) {`);
    c.line(`  LN_REAL a = left >= 0 ? median - ${sorted}[left] : (LN_REAL)INFINITY;`);
    c.line(`  LN_REAL b = right < ${width} ? ${sorted}[right] - median : (LN_REAL)INFINITY;`);
    c.line('  if (a <= b) { deviation = a; left--; } else { deviation = b; right++; }');
    c.line('}');
    c.line(
      `allowed = ${c.constant('LIMIT', limit * MAD_TO_SD, 'times the median absolute deviation')} * deviation;`,
    );
    const lowest = c.constant('FLOOR', floor, '');
    c.line(`if (allowed < ${lowest}) allowed = ${lowest};`);
    c.line('if ((x > median ? x - median : median - x) > allowed) x = median;');
  },
});
