import type { StudyCard } from '@lucky-needle/core/model';
import { Plot } from './Plot.tsx';
import type { PlotAxis, PlotSeries } from './plotTypes.ts';

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

/** What the lines and the shade mean, in words. */
function legendOf({ series, allowed }: CardPlot): string {
  const titles = (style: CardSeries['style']) =>
    [...new Set(series.filter((s) => s.style === style).map((s) => s.label))].join(', ');
  const parts = [
    titles('middle') && `Line: ${titles('middle')}.`,
    titles('limit') && `Dashed: ${titles('limit')}.`,
    allowed && 'Shaded: allowed range.',
  ];
  return parts.filter(Boolean).join(' ');
}

/** Whole numbers have a tick each, and room at both ends. */
function axisOf(plot: CardPlot, which: 'x' | 'y'): PlotAxis {
  const { label, unit, scale, names, ends } = plot[which];
  if (scale !== 'whole')
    return { label, unit, scale, min: ends?.[0] ?? undefined, max: ends?.[1] ?? undefined };
  const last = Math.max(1, ...plot.series.flatMap((s) => s[which].map((v) => v ?? 0)));
  return { label, unit, names, min: 0, max: last + 1, step: Math.ceil((last + 1) / 20) };
}

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
        x={axisOf(plot, 'x')}
        y={axisOf(plot, 'y')}
        bands={
          plot.allowed ? [{ axis: 'y', from: plot.allowed[0], to: plot.allowed[1], ink: 'tolerance' }] : []
        }
        height={height}
      />
      <p className="muted text-xs">{legendOf(plot)}</p>
    </div>
  );
}
