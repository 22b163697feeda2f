import { useMemo } from 'react';
import { lowerBound } from '@lucky-needle/core/numerics';
import { REASON, REASONS } from '@lucky-needle/core/line';
import { UNITS } from '@lucky-needle/core/units';
import type { LiveLine } from '../../live/useLiveLine.ts';
import { EmptyState } from '../../parts/EmptyState.tsx';
import { Plot, type PlotSeries } from '../../parts/Plot.tsx';

const WINDOW_S = 60;

/** The last minute after the opened stage; behind a filter also what went into it. */
export function LinePreview({
  live,
  stageId,
  sampleRateHz,
}: {
  live: LiveLine;
  stageId: string | null;
  sampleRateHz: number;
}) {
  const { line, times, stages } = live;
  const index = line ? Math.max(0, line.stages.findIndex((s) => s.spec.id === stageId) + 1) : 0;
  const stage = line?.stages[index - 1];
  const view = useMemo(() => {
    if (!line || times.length === 0) return null;
    const newest = times[times.length - 1]!;
    const recent = (at: number) => {
      const column = stages[at]!;
      const from = lowerBound(column.times, newest - WINDOW_S);
      return {
        x: column.times.slice(from).map((t) => t - newest),
        y: column.values.slice(from),
        reasons: column.reasons.subarray(from),
      };
    };
    const after = recent(index);
    const series: PlotSeries[] = [];
    if (stage?.kind.role === 'filter' && stages[index - 1]) {
      const before = recent(index - 1);
      series.push({
        label: 'Into the filter',
        x: before.x,
        y: before.y,
        ink: 'muted',
        style: 'line',
      });
    }
    series.push({
      label: stage ? `After ${stage.kind.title.toLowerCase()}` : 'Raw',
      x: after.x,
      y: after.y,
      ink: 'fit',
      style: 'line',
    });
    const bad = new Map<number, number>();
    for (const reason of after.reasons) if (reason !== REASON.ok) bad.set(reason, (bad.get(reason) ?? 0) + 1);
    return { series, bad };
  }, [line, times, stages, index, stage]);
  const unit = stage ? stage.outputs[0]!.unit : 'count';
  const xAxis = useMemo(() => ({ label: 'Before now', unit: 's', min: -WINDOW_S, max: 0 }), []);
  const yAxis = useMemo(
    () => ({ label: stage?.kind.title ?? 'Raw', unit: UNITS[unit].symbol }),
    [stage?.kind.title, unit],
  );
  if (!line) return null;
  if (!view) {
    return (
      <EmptyState title="No readings to preview">
        The preview shows the last minute of the live link. Link a gadget on the Hook-up page, or plug it in.
      </EmptyState>
    );
  }
  return (
    <section className="panel">
      <h2>
        {stage ? `After ${stage.kind.title.toLowerCase()}` : 'Raw counts'}
        <span className="muted ml-3 text-sm font-normal">
          live, {sampleRateHz} readings a second
          {stage?.kind.role === 'filter' ? '; grey: into the filter' : ''}
        </span>
      </h2>
      <Plot
        title={`Last minute after ${stage?.kind.title ?? 'the converter'}`}
        series={view.series}
        x={xAxis}
        y={yAxis}
        height={250}
      />
      {[...view.bad].map(([reason, count]) => (
        <p key={reason} className="text-sm text-warning">
          {count} readings in the last minute give no number here: {REASONS[reason]}.
        </p>
      ))}
    </section>
  );
}
