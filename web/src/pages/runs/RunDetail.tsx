import { useCallback, useMemo, useState } from 'react';
import type { Recording } from '@lucky-needle/core/model';
import { briefFor, toleranceIn } from '@lucky-needle/core/plan';
import { printNumber, readingDecimals, UNITS, type UnitId } from '@lucky-needle/core/units';
import { usePatchRecordingMutation } from '../../api/runApi.ts';
import { useBench } from '../../app/useBench.ts';
import { eventOverlay } from '../../parts/counts/eventOverlay.ts';
import { EmptyState } from '../../parts/EmptyState.tsx';
import { MoveHint } from '../../parts/MoveHint.tsx';
import { Plot, type PlotBand } from '../../parts/Plot.tsx';
import type { PlotInk } from '../../parts/plotTypes.ts';
import { fittedStretch, StretchSteps } from '../../parts/StretchSteps.tsx';
import { Cursors, momentOf } from './Cursors.tsx';
import { CutBar } from './CutBar.tsx';
import { Exports } from './Exports.tsx';
import { RunFigures } from './RunFigures.tsx';
import { useConverted } from './useConverted.ts';
import { WorkingOut } from './WorkingOut.tsx';
import { useCounts } from './useCounts.ts';
import { ShapeCard } from './ShapeCard.tsx';
import { StepsCard } from './StepsCard.tsx';
import { Stretches } from './Stretches.tsx';
import { useStretches, type StretchesWanted } from './useStretches.ts';
import { Rereduce } from './Rereduce.tsx';
import { counted } from '@lucky-needle/core/words';

/** Wide enough for the longest numbers and a title beside them. */
const STACKED_AXIS = 76;
const NO_BANDS: readonly PlotBand[] = [];
const INKS: readonly PlotInk[] = ['trace', 'trace2', 'trace3', 'muted'];

/** One recording, converted through the lines with their calibrations in use. */
export function RunDetail({ recording }: { recording: Recording }) {
  const bench = useBench();
  const [patch] = usePatchRecordingMutation();
  const [comparing, setComparing] = useState(false);
  const [shaping, setShaping] = useState(false);
  const [stepping, setStepping] = useState(false);
  const [reason, setReason] = useState<string | null>(null);
  /** Seconds since the start; null for all of it. */
  const [stretch, setStretch] = useState<{ fromS: number; toS: number } | null>(null);
  const startS = recording.firstTimeS ?? 0;
  const absolute = useMemo(
    () => stretch && { fromS: startS + stretch.fromS, toS: startS + stretch.toS },
    [stretch, startS],
  );
  const { converted, error, share, givenUp, cancel, again } = useConverted(recording, bench, absolute);
  const length = (recording.lastTimeS ?? 0) - (recording.firstTimeS ?? 0);
  const [scale, timeUnit] = length > 300 ? ([60, 'min'] as const) : ([1, 's'] as const);
  // One plot a unit: curves of several quantities share no axis.
  const plots = useMemo(() => {
    const start = recording.firstTimeS ?? 0;
    const units = [...new Set((converted ?? []).map((c) => c.unit))];
    return units.map((unit) => ({
      unit,
      y: {
        label: UNITS[unit].dimension,
        unit: UNITS[unit].symbol,
        leastWidth: units.length > 1 ? STACKED_AXIS : undefined,
      },
      series: converted!.flatMap(({ name, unit: own, reading }, i) =>
        own === unit
          ? [
              {
                label: name,
                x: reading.times.map((t) => (t - start) / scale),
                y: reading.values,
                ink: INKS[i % INKS.length]!,
                style: 'line' as const,
              },
            ]
          : [],
      ),
    }));
  }, [converted, recording.firstTimeS, scale]);
  const x = useMemo(
    () => ({
      label: 'Time since start',
      unit: timeUnit,
      min: (stretch?.fromS ?? 0) / scale,
      max: (stretch?.toS ?? length) / scale,
    }),
    [scale, timeUnit, length, stretch],
  );
  const [cursors, setCursors] = useState<readonly [string, string]>(['', '']);
  const marks = useMemo(
    () => [
      ...recording.markers.map((m) => ({ at: (m.timeS - startS) / scale, text: m.text })),
      ...cursors.flatMap((text, i) => {
        const at = momentOf(text);
        return Number.isFinite(at) ? [{ at, text: 'AB'[i]! }] : [];
      }),
    ],
    [recording.markers, startS, scale, cursors],
  );
  const [wanted, setWanted] = useState<StretchesWanted | null>(null);
  const { found, error: notFound } = useStretches(recording, bench, absolute, wanted);
  const foundUnit = converted?.find((c) => c.id === wanted?.channelId)?.unit ?? null;
  const bands = useMemo<readonly PlotBand[]>(
    () =>
      (found?.stretches ?? []).map((s) => ({
        axis: 'x',
        from: (s.startS - startS) / scale,
        to: (s.endS - startS) / scale,
        ink: 'window',
      })),
    [found, startS, scale],
  );
  const counts = useCounts(recording, bench.gadget);
  // Events stand on the readings of their own unit.
  const drawn = useMemo(
    () =>
      plots.map((plot) => {
        const overlays = (counts.answer ?? [])
          .filter((c) => converted?.some((k) => k.id === c.channelId && k.unit === plot.unit))
          .map((c) => {
            const watches = bench.gadget.channels.find((g) => g.id === c.channelId)?.watches ?? [];
            return eventOverlay(watches, c.events, (timeS) => (timeS - startS) / scale, x.min, x.max);
          });
        return {
          ...plot,
          series: [...plot.series, ...overlays.flatMap((o) => o.series)],
          marks: [...marks, ...overlays.flatMap((o) => o.marks)],
        };
      }),
    [plots, counts.answer, converted, bench.gadget.channels, startS, scale, x, marks],
  );
  const decimalsOf = (id: string, unit: UnitId) => {
    const channel = bench.gadget.channels.find((c) => c.id === id);
    return readingDecimals(null, channel ? toleranceIn(briefFor(bench.gadget, channel), unit) : null);
  };
  const leastS = 8 / recording.sampleRateHz;
  const select = useCallback(
    (from: number, to: number) => setStretch(fittedStretch(from * scale, to * scale, length, leastS)),
    [scale, length, leastS],
  );
  const reach = useMemo(
    () => ({ from: 0, to: length / scale, least: leastS / scale }),
    [length, scale, leastS],
  );
  return (
    <section className="panel min-w-0" aria-label={recording.name}>
      <div className="mb-2 flex flex-wrap items-center gap-2">
        <h2 className="section-title mr-auto">{recording.name}</h2>
        {recording.sampleCount > 0 && (
          <StretchSteps
            fromS={stretch?.fromS ?? 0}
            toS={stretch?.toS ?? length}
            lengthS={length}
            leastS={leastS}
            unit={timeUnit}
            onZoom={setStretch}
          />
        )}
        <Exports recording={recording} />
        {recording.excluded === null ? (
          <button type="button" className="btn btn-ghost btn-sm" onClick={() => setReason('')}>
            Exclude
          </button>
        ) : (
          <button
            type="button"
            className="btn btn-ghost btn-sm"
            onClick={() => void patch({ id: recording.id, patch: { excluded: null } })}
          >
            Include
          </button>
        )}
      </div>
      {reason !== null && recording.excluded === null && (
        <form
          className="mb-2 flex gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            void patch({ id: recording.id, patch: { excluded: reason.trim() } });
            setReason(null);
          }}
        >
          <input
            autoFocus
            required
            className="input input-sm grow"
            maxLength={200}
            placeholder="Reason for excluding this run"
            value={reason}
            onChange={(e) => setReason(e.target.value)}
          />
          <button className="btn btn-sm" disabled={reason.trim() === ''}>
            Exclude
          </button>
        </form>
      )}
      {recording.state === 'recovered' && (
        <p role="note" className="mb-2 rounded-box border border-warning/60 bg-warning/8 p-2 text-sm">
          The server stopped unexpectedly during this run. The run was closed at the next start; at most the
          last second of data is missing.
        </p>
      )}
      {recording.excluded !== null && <p className="mb-2 text-sm">Excluded: {recording.excluded}</p>}
      {error && (
        <p role="alert" className="text-sm text-error">
          Cannot show the samples: {error}
        </p>
      )}
      {recording.sampleCount === 0 ? (
        <EmptyState title="No readings">
          No data arrived during this run. The link may have been down.
        </EmptyState>
      ) : converted ? (
        <>
          <ul className="mb-1 flex flex-wrap gap-x-5 gap-y-1 text-xs" aria-label="Channels">
            {converted.map(({ id, name, unit, reading }, i) => (
              <li key={id} className="flex items-center gap-2">
                <span
                  className={`inline-block h-0.5 w-5 ${['bg-primary', 'bg-info', 'bg-secondary', 'bg-base-content/55'][i % 4]}`}
                  aria-hidden
                />
                {name}
                <span className="num muted">
                  {Number.isNaN(reading.low)
                    ? 'no readings'
                    : `${printNumber(reading.low, decimalsOf(id, unit))} to ${printNumber(reading.high, decimalsOf(id, unit))} ${UNITS[unit].symbol}`}
                  {reading.bad > 0 && `, ${reading.bad} invalid`}
                </span>
              </li>
            ))}
          </ul>
          {drawn.map(({ unit, series, marks: shown, y }) => (
            <Plot
              key={unit}
              title={`${recording.name}, ${plots.length > 1 ? y.label : 'converted'}`}
              series={series}
              x={x}
              y={y}
              marks={shown}
              bands={unit === foundUnit ? bands : NO_BANDS}
              onSelect={select}
              reach={reach}
              height={plots.length > 1 ? 240 : 420}
            />
          ))}
          <p className="muted text-xs">
            <MoveHint />
          </p>
          <RunFigures
            gadget={bench.gadget}
            counts={counts.answer}
            share={counts.share}
            error={counts.error}
            startS={startS}
          />
        </>
      ) : (
        !error && (
          <WorkingOut
            samples={recording.sampleCount}
            share={givenUp ? null : (share ?? 0)}
            onCancel={cancel}
            onGoOn={again}
          />
        )
      )}
      {converted && (
        <details className="mt-2 text-sm">
          <summary className="cursor-pointer">Measure between two times</summary>
          <Cursors
            recording={recording}
            converted={converted}
            at={cursors}
            unit={timeUnit}
            startS={startS}
            onChange={setCursors}
          />
        </details>
      )}
      {converted && (
        <details className="mt-2 text-sm" onToggle={(e) => !e.currentTarget.open && setWanted(null)}>
          <summary className="cursor-pointer">Find sections above or below a level</summary>
          <Stretches
            channels={converted.map(({ id, name, unit, isDirection, reading: { low, high } }) => ({
              id,
              isDirection,
              name,
              unit,
              low,
              high,
            }))}
            found={found}
            error={notFound}
            startS={startS}
            onFind={setWanted}
            onLook={(fromS, toS) => setStretch(fittedStretch(fromS, toS, length, leastS))}
          />
        </details>
      )}
      {converted && converted.length > 0 && (
        <details className="mt-2 text-sm" onToggle={(e) => setStepping(e.currentTarget.open)}>
          <summary className="cursor-pointer">Load steps: steady sections and totals</summary>
          {stepping && (
            <StepsCard
              recording={recording}
              converted={converted}
              within={absolute}
              startS={startS}
              onLook={(fromS, toS) => setStretch(fittedStretch(fromS, toS, length, leastS))}
            />
          )}
        </details>
      )}
      {converted && (
        <details className="mt-2 text-sm" onToggle={(e) => setShaping(e.currentTarget.open)}>
          <summary className="cursor-pointer">Distribution and spectrum</summary>
          {shaping && <ShapeCard recording={recording} within={absolute} />}
        </details>
      )}
      {recording.sampleCount > 0 && (
        <CutBar recording={recording} stretch={stretch} unit={timeUnit} onCut={() => setStretch(null)} />
      )}
      {recording.sampleCount > 0 && (
        <details className="mt-2 text-sm" onToggle={(e) => setComparing(e.currentTarget.open)}>
          <summary className="cursor-pointer">Compare calibration versions</summary>
          {comparing && <Rereduce recording={recording} />}
        </details>
      )}
      {recording.issues.length > 0 && (
        <details className="mt-2 text-sm">
          <summary className="cursor-pointer">{counted(recording.issues.length, 'data issue')}</summary>
          <ul className="num muted mt-1 max-h-40 overflow-auto text-xs">
            {recording.issues.map((issue, i) => (
              <li key={i}>{issue.text}</li>
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}
