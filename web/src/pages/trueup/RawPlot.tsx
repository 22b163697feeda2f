import { useMemo } from 'react';
import { reduceForPlot } from '@lucky-needle/core/formats';
import { Plot, type PlotBand } from '../../parts/Plot.tsx';

const SHOWN_S = 40;
/** Two a pixel of the card. */
const POINTS = 600;
const AXIS_X = { label: 'Time', unit: 's', min: -SHOWN_S, max: 0 };
const AXIS_Y = { label: 'Raw', unit: 'counts' };
const NO_BANDS: PlotBand[] = [];

interface Props {
  /** Seconds on the clock that readings have. */
  readonly times: Float64Array;
  /** Counts, one a time; at least one. */
  readonly raw: Float64Array;
  /** Whole seconds that the newest have been steady for; 0 where they are not. */
  readonly steadyForS: number;
}

/** The newest raw readings of a channel, and how much of them is steady. */
export function RawPlot({ times, raw, steadyForS }: Props) {
  const series = useMemo(() => {
    const newest = times.at(-1)!;
    let from = raw.length - 1;
    while (from > 0 && newest - times[from - 1]! <= SHOWN_S) from--;
    const drawn = reduceForPlot(times.subarray(from), raw.subarray(from), POINTS);
    return [
      {
        label: 'Raw',
        x: drawn.times.map((t) => t - newest),
        y: drawn.values,
        ink: 'muted' as const,
        style: 'line' as const,
      },
    ];
  }, [raw, times]);
  const bands = useMemo<PlotBand[]>(
    () =>
      steadyForS > 0 ? [{ axis: 'x', from: -Math.min(SHOWN_S, steadyForS), to: 0, ink: 'window' }] : NO_BANDS,
    [steadyForS],
  );
  return (
    <Plot
      title="Raw counts, last 40 seconds"
      series={series}
      x={AXIS_X}
      y={AXIS_Y}
      bands={bands}
      height={60}
      bare
    />
  );
}
