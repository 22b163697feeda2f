import type { StudyCard } from '@lucky-needle/core/model';
import { Plot } from '../../../parts/Plot.tsx';
import type { PlotSeries } from '../../../parts/plotTypes.ts';

type CardPlot = StudyCard['plots'][number];
type CardSeries = CardPlot['series'][number];

const STYLES: Record<CardSeries['style'], Pick<PlotSeries, 'ink' | 'style'>> = {
  points: { ink: 'trace', style: 'rings' },
  line: { ink: 'trace', style: 'line' },
  limit: { ink: 'reference', style: 'dashed' },
  middle: { ink: 'needle', style: 'line' },
};

/** Points of a second and third series are told apart by their shape, not by colour alone. */
const OTHER_POINTS: readonly Pick<PlotSeries, 'ink' | 'style'>[] = [
  STYLES.points,
  { ink: 'reference', style: 'diamonds' },
  { ink: 'muted', style: 'cross' },
];

const numbers = (values: readonly (number | null)[]) => values.map((v) => v ?? Number.NaN);

/** One plot of a study. */
export function StudyPlot({ plot, height = 300 }: { plot: CardPlot; height?: number }) {
  let points = 0;
  const series = plot.series.map(({ label, x, y, style }): PlotSeries => ({
    label,
    x: numbers(x),
    y: numbers(y),
    ...(style === 'points' ? OTHER_POINTS[Math.min(points++, OTHER_POINTS.length - 1)]! : STYLES[style]),
  }));
  const named = plot.series.filter((s) => s.style === 'points');
  return (
    <div>
      <p className="muted mb-1 text-xs">
        {plot.title}
        {named.length > 1 && (
          <span className="ml-2">
            ({named.map((s, i) => `${['○', '◇', '✕'][Math.min(i, 2)]} ${s.label}`).join(', ')})
          </span>
        )}
      </p>
      <Plot
        title={plot.title}
        series={series}
        x={plot.x}
        y={plot.y}
        bands={
          plot.allowed ? [{ axis: 'y', from: plot.allowed[0], to: plot.allowed[1], ink: 'tolerance' }] : []
        }
        height={height}
      />
      {plot.allowed && <p className="muted text-xs">Shaded: what the brief allows.</p>}
    </div>
  );
}
