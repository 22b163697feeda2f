import { useMemo } from 'react';
import { fitPoint } from '@lucky-needle/core/calibrate';
import { readingAtRest, slopeAtRest, type CompiledLine } from '@lucky-needle/core/line';
import type { CalibrationPoint } from '@lucky-needle/core/model';
import { UNITS } from '@lucky-needle/core/units';
import { niceRange } from '../../parts/niceRange.ts';
import { Plot, type PlotBand } from '../../parts/Plot.tsx';
import type { PlotSeries } from '../../parts/plotTypes.ts';

interface Props {
  readonly points: readonly CalibrationPoint[];
  readonly line: CompiledLine;
  /** Whether the line is a fit, or still as bought. */
  readonly fitted: boolean;
  readonly tolerance: number | null;
}

/** Error left at every point, with its uncertainty, against the brief's tolerance. */
export function ResidualPlot({ points, line, fitted, tolerance }: Props) {
  const unit = line.outputs[0]!.unit;
  const symbol = UNITS[unit].symbol;
  const { series, range } = useMemo(() => {
    const rows = points
      .filter((p) => p.excluded === null)
      .map((p) => {
        const point = fitPoint(p, unit);
        const error = readingAtRest(line, point.raw) - point.reference;
        return {
          role: p.role,
          at: point.reference,
          error,
          half: 2 * Math.hypot(point.uReference, slopeAtRest(line, point.raw) * point.uRaw),
        };
      })
      // Where the line gives no number there is no error to draw, nor a scale for the others.
      .filter((r) => Number.isFinite(r.error) && Number.isFinite(r.half));
    const whiskers: PlotSeries = {
      label: 'Uncertainty',
      x: rows.flatMap((r) => [r.at, r.at, r.at]),
      y: rows.flatMap((r) => [r.error - r.half, r.error + r.half, Number.NaN]),
      ink: 'muted',
      style: 'whiskers',
    };
    const dots = (role: 'fit' | 'check'): PlotSeries => {
      const own = rows.filter((r) => r.role === role);
      return {
        label: role === 'fit' ? 'Points' : 'Checks',
        x: own.map((r) => r.at),
        y: own.map((r) => r.error),
        ink: role === 'fit' ? 'reference' : 'check',
        style: role === 'fit' ? 'diamonds' : 'rings',
      };
    };
    const largest = Math.max(tolerance ?? 0, 1e-9, ...rows.map((r) => Math.abs(r.error) + r.half));
    return {
      series: [whiskers, dots('fit'), dots('check')],
      range: niceRange(-1.15 * largest, 1.15 * largest, 5),
    };
  }, [points, line, unit, tolerance]);
  const bands = useMemo<PlotBand[]>(
    () => (tolerance === null ? [] : [{ axis: 'y', from: -tolerance, to: tolerance, ink: 'tolerance' }]),
    [tolerance],
  );
  const x = useMemo(() => ({ label: 'True value', unit: symbol }), [symbol]);
  const y = useMemo(() => ({ label: 'Error', unit: symbol, ...range }), [symbol, range]);
  return (
    <section>
      <h2 className="section-title">
        {fitted ? 'Remaining error' : 'Error, uncalibrated'}
        <span className="muted ml-3 text-sm font-normal">
          reading minus true value{tolerance === null ? '' : '; green: the brief’s tolerance'}
        </span>
      </h2>
      <Plot
        title={fitted ? 'Remaining error' : 'Error, uncalibrated'}
        series={series}
        x={x}
        y={y}
        bands={bands}
        height={150}
      />
    </section>
  );
}
