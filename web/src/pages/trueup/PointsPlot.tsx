import { useMemo } from 'react';
import {
  uncertaintyAlong,
  readingAtRest,
  type CalibrationCovariance,
  type CompiledLine,
} from '@lucky-needle/core/line';
import type { CalibrationPoint } from '@lucky-needle/core/model';
import { convertUnit, UNITS } from '@lucky-needle/core/units';
import { useLive } from '../../live/useLive.ts';
import { niceRange } from '../../parts/niceRange.ts';
import { Plot } from '../../parts/Plot.tsx';
import type { PlotSeries } from '../../parts/plotTypes.ts';
import { shownEnds } from './shownEnds.ts';

interface Props {
  readonly bought: CompiledLine;
  readonly fitted: CompiledLine | null;
  readonly covariance: CalibrationCovariance | null;
  readonly points: readonly CalibrationPoint[];
  readonly noiseRaw: number;
  /** Raw value at which a further point tells most; null where none is wanted. */
  readonly next: number | null;
}

const STEPS = 80;

/** Points over raw counts: as bought dashed, the fit with its 95 % band, the reading now in red. */
export function PointsPlot({ bought, fitted, covariance, points, noiseRaw, next }: Props) {
  const live = useLive();
  const now = live.columns.get(bought.sources[0]!.name)?.at(-1) ?? null;
  const unit = bought.outputs[0]!.unit;
  const { series, range } = useMemo(() => {
    const raws = points.map((p) => p.capture.mean);
    const shown = next === null ? raws : [...raws, next];
    const low = Math.min(...shown);
    const high = Math.max(...shown);
    const margin = Math.max(20, 0.08 * (high - low));
    const adc = bought.stages.find((s) => s.spec.kind === 'adc');
    const full = adc ? 2 ** Number(adc.spec.params['bits']) - 1 : Infinity;
    const from = Math.max(1, low - margin);
    const to = Math.min(full - 1, high + margin);
    const x = Array.from({ length: STEPS + 1 }, (_, i) => from + ((to - from) * i) / STEPS);
    const reference = (p: CalibrationPoint) => convertUnit(p.worth.value, p.worth.unit, unit);
    const group = (role: 'fit' | 'check', excluded: boolean) =>
      points.filter((p) => p.role === role && (p.excluded !== null) === excluded);
    const all: PlotSeries[] = [
      { label: 'Uncalibrated', x, y: x.map((r) => readingAtRest(bought, r)), ink: 'muted', style: 'dashed' },
    ];
    if (fitted) {
      const at = uncertaintyAlong(fitted, covariance);
      const band = x.map((r) => {
        const u = at(r, noiseRaw).at(-1)!;
        return { value: u.value, half: 2 * u.combined };
      });
      all.push(
        { label: '95 % band, lower', x, y: band.map((b) => b.value - b.half), ink: 'fit', style: 'band-low' },
        {
          label: '95 % band, upper',
          x,
          y: band.map((b) => b.value + b.half),
          ink: 'fit',
          style: 'band-high',
        },
        { label: 'Fit', x, y: band.map((b) => b.value), ink: 'fit', style: 'line' },
      );
    }
    const dots = (
      label: string,
      list: CalibrationPoint[],
      ink: PlotSeries['ink'],
      style: PlotSeries['style'],
    ) => {
      if (list.length > 0)
        all.push({ label, x: list.map((p) => p.capture.mean), y: list.map(reference), ink, style });
    };
    dots('Points', group('fit', false), 'reference', 'diamonds');
    dots('Checks', group('check', false), 'check', 'rings');
    dots('Excluded', [...group('fit', true), ...group('check', true)], 'muted', 'cross');
    return {
      series: all,
      range: {
        x: niceRange(from, to),
        y: niceRange(...shownEnds(points.map(reference), all)),
      },
    };
  }, [bought, fitted, covariance, points, noiseRaw, unit, next]);
  const x = useMemo(() => ({ label: 'Raw', unit: 'counts', ...range.x }), [range.x]);
  const y = useMemo(() => ({ label: 'True value', unit: UNITS[unit].symbol, ...range.y }), [unit, range.y]);
  const marks = useMemo(() => (next === null ? [] : [{ at: next, text: 'Next point' }]), [next]);
  return (
    <section>
      <h2 className="section-title">
        Points and fit
        <span className="muted ml-3 text-sm font-normal">
          dashed: uncalibrated{fitted ? '; band: where 95 % of readings should fall' : ''}; red: current raw
          counts
        </span>
      </h2>
      <Plot title="Points and fit" series={series} x={x} y={y} needleAt={now} marks={marks} height={250} />
    </section>
  );
}
