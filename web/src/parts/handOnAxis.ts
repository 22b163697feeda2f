import { afterRest } from './afterRest.ts';

export interface AxisStretch {
  readonly from: number;
  readonly to: number;
}

interface Moved {
  readonly chart: {
    readonly scales: Readonly<Record<string, { readonly min: number; readonly max: number }>>;
  };
}

/** What a hand does to the abscissa of a plot, told once a movement is over. */
export interface HandOnAxis {
  /** A step of a wheel or of two fingers: told when no other follows within the rest. */
  zoomed(at: Moved): void;
  /** A step of a drag along the axis. */
  panned(at: Moved): void;
  /** The drag is over: told at once, in place of a zoom that was still to be told. */
  panDone(at: Moved): void;
  /** The stretch that the hand has come to and that was not told yet, or null. A look that comes in is drawn over it. */
  held(): AxisStretch | null;
}

/**
 * Hears of zooms and drags. The stretch is taken at each step, and stays what is shown until it is told: a look that was asked
 * for earlier may come in meanwhile, and is not where the hand has come to.
 */
export function handOnAxis(onSelect: (stretch: AxisStretch) => void, restMs: number): HandOnAxis {
  let held: AxisStretch | null = null;
  const take = ({ chart }: Moved) => {
    const shown = chart.scales['x'];
    if (shown) held = { from: shown.min, to: shown.max };
  };
  const tell = () => {
    const stretch = held;
    held = null;
    if (stretch) onSelect(stretch);
  };
  const rested = afterRest(tell, restMs);
  return {
    zoomed: (at) => {
      take(at);
      rested(undefined);
    },
    panned: take,
    panDone: (at) => {
      take(at);
      tell();
    },
    held: () => held,
  };
}
