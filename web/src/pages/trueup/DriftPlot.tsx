import { useMemo } from 'react';
import { driftSeries } from '@lucky-needle/core/calibrate';
import type { Calibration, LineSpec } from '@lucky-needle/core/model';
import { UNITS, type UnitId } from '@lucky-needle/core/units';
import { Plot } from '../../parts/Plot.tsx';
import type { PlotSeries } from '../../parts/plotTypes.ts';

interface Props {
  readonly calibrations: readonly Calibration[];
  readonly line: LineSpec;
  readonly sampleRateHz: number;
  readonly unit: UnitId | null;
}

/** The versions one after another: how far each lies from the first, with its uncertainty, over the days. */
export function DriftPlot({ calibrations, line, sampleRateHz, unit }: Props) {
  const drift = useMemo(
    () => driftSeries(line, { sampleRateHz }, calibrations),
    [line, sampleRateHz, calibrations],
  );
  const series = useMemo<PlotSeries[]>(() => {
    if (!drift) return [];
    const days = drift.places.map((p) => p.days);
    const y = drift.places.map((p) => p.change);
    const bars = drift.places.flatMap(({ days: d, change, uncertainty }) => [
      [d, change - uncertainty],
      [d, change + uncertainty],
      [d, Number.NaN],
    ]);
    return [
      {
        label: 'Expanded uncertainty (k = 2)',
        x: bars.map((b) => b[0]!),
        y: bars.map((b) => b[1]!),
        ink: 'reference',
        style: 'whiskers',
      },
      { label: 'version', x: days, y, ink: 'reference', style: 'diamonds' },
    ];
  }, [drift]);
  if (!drift) return null;
  const last = drift.places.at(-1)!.days;
  const pad = Math.max(0.5, last * 0.05);
  return (
    <Plot
      title={`Drift between versions: ${drift.what}`}
      series={series}
      x={{ label: 'Time since first version', unit: last < 2 ? 'd' : 'days', min: -pad, max: last + pad }}
      y={{ label: drift.what, unit: drift.unit ?? (unit === null ? '' : UNITS[unit].symbol) }}
      height={150}
    />
  );
}
