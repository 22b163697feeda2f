import { afterRest } from './afterRest.ts';

interface Zoomed {
  readonly chart: {
    readonly scales: Readonly<Record<string, { readonly min: number; readonly max: number }>>;
  };
}

/**
 * Hears of zooms and, once they have come to rest, tells the stretch that the last of them came to. It is taken at the zoom:
 * a look that was asked for earlier may come in during the rest and draw the axis as it was.
 */
export function zoomedTo(onSelect: (from: number, to: number) => void, restMs: number): (at: Zoomed) => void {
  const select = afterRest(({ min, max }: { min: number; max: number }) => onSelect(min, max), restMs);
  return ({ chart }) => {
    const shown = chart.scales['x'];
    if (shown) select({ min: shown.min, max: shown.max });
  };
}
