import { useEffect, useMemo, useState } from 'react';
import { calibratedLine } from '@lucky-needle/core/calibrate';
import { compileLine } from '@lucky-needle/core/line';
import type { Recording } from '@lucky-needle/core/model';
import { printNumber, UNITS, type UnitId } from '@lucky-needle/core/units';
import { fetchWindow } from '../../api/fetchWindow.ts';
import { usePatchRecordingMutation } from '../../api/api.ts';
import { useBench, type BenchContext } from '../../app/useBench.ts';
import { EmptyState } from '../../parts/EmptyState.tsx';
import { Plot, type PlotInk } from '../../parts/Plot.tsx';
import type { ReducedReading } from '../../workers/line.worker.ts';
import { lineWorker } from '../../workers/lineWorker.ts';
import { Rereduce } from './Rereduce.tsx';

/** Samples fetched whole for conversion in the browser; longer recordings come thinned and say so. */
const MOST_SAMPLES = 1_000_000;
const INKS: readonly PlotInk[] = ['trace', 'trace2', 'trace3', 'muted'];

type Converted = { name: string; unit: UnitId; reading: ReducedReading }[];

/** One recording, converted through the lines with their calibrations in use. */
export function RunDetail({ recording }: { recording: Recording }) {
  const bench = useBench();
  const [patch] = usePatchRecordingMutation();
  const [comparing, setComparing] = useState(false);
  const [reason, setReason] = useState<string | null>(null);
  const { converted, thinned, error } = useConverted(recording, bench);
  const length = (recording.lastTimeS ?? 0) - (recording.firstTimeS ?? 0);
  const long = length > 300;
  // One plot a unit: curves of several quantities share no axis.
  const plots = useMemo(() => {
    const start = recording.firstTimeS ?? 0;
    const units = [...new Set((converted ?? []).map((c) => c.unit))];
    return units.map((unit) => ({
      unit,
      y: { label: UNITS[unit].dimension, unit: UNITS[unit].symbol },
      series: converted!.flatMap(({ name, unit: own, reading }, i) =>
        own === unit
          ? [
              {
                label: name,
                x: reading.times.map((t) => (t - start) / (long ? 60 : 1)),
                y: reading.values,
                ink: INKS[i % INKS.length]!,
                style: 'line' as const,
              },
            ]
          : [],
      ),
    }));
  }, [converted, recording.firstTimeS, long]);
  const x = useMemo(
    () => ({ label: 'Since the start', unit: long ? 'min' : 's', min: 0, max: length / (long ? 60 : 1) }),
    [long, length],
  );
  return (
    <section className="panel min-w-0" aria-label={recording.name}>
      <div className="mb-2 flex flex-wrap items-center gap-2">
        <h2 className="section-title mr-auto">{recording.name}</h2>
        <a className="btn btn-sm" href={`/api/recordings/${recording.id}/export.csv`} download>
          Export CSV
        </a>
        {recording.excluded === null ? (
          <button type="button" className="btn btn-ghost btn-sm" onClick={() => setReason('')}>
            Leave out
          </button>
        ) : (
          <button
            type="button"
            className="btn btn-ghost btn-sm"
            onClick={() => void patch({ id: recording.id, patch: { excluded: null } })}
          >
            Count it again
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
            placeholder="Why does it not count?"
            value={reason}
            onChange={(e) => setReason(e.target.value)}
          />
          <button className="btn btn-sm" disabled={reason.trim() === ''}>
            Leave out
          </button>
        </form>
      )}
      {recording.state === 'recovered' && (
        <p role="note" className="mb-2 rounded-box border border-warning/60 bg-warning/8 p-2 text-sm">
          The server ended without warning during this run. It was closed at the next start; at most the last
          second is missing.
        </p>
      )}
      {recording.excluded !== null && <p className="mb-2 text-sm">Left out: {recording.excluded}</p>}
      {error && (
        <p role="alert" className="text-sm text-error">
          The samples cannot be shown: {error}
        </p>
      )}
      {recording.sampleCount === 0 ? (
        <EmptyState title="No readings">
          Nothing arrived while this was recorded. The link may have been down.
        </EmptyState>
      ) : converted ? (
        <>
          <ul className="mb-1 flex flex-wrap gap-x-5 gap-y-1 text-xs" aria-label="Channels">
            {converted.map(({ name, unit, reading }, i) => (
              <li key={name} className="flex items-center gap-2">
                <span
                  className={`inline-block h-0.5 w-5 ${['bg-primary', 'bg-info', 'bg-secondary', 'bg-base-content/55'][i % 4]}`}
                  aria-hidden
                />
                {name}
                <span className="num muted">
                  {printNumber(reading.low, 1)} to {printNumber(reading.high, 1)} {UNITS[unit].symbol}
                  {reading.bad > 0 && `, ${reading.bad} bad`}
                </span>
              </li>
            ))}
          </ul>
          {plots.map(({ unit, series, y }) => (
            <Plot
              key={unit}
              title={`${recording.name}, ${plots.length > 1 ? y.label : 'converted'}`}
              series={series}
              x={x}
              y={y}
              height={plots.length > 1 ? 240 : 420}
            />
          ))}
          {thinned > 1 && (
            <p className="muted text-xs">
              A long recording: the curve is worked out from the lowest and highest of every {thinned}{' '}
              readings.
            </p>
          )}
        </>
      ) : (
        !error && (
          <p role="status" className="muted p-6 text-sm">
            Converting {recording.sampleCount.toLocaleString('en')} readings…
          </p>
        )
      )}
      {recording.sampleCount > 0 && (
        <details className="mt-2 text-sm" onToggle={(e) => setComparing(e.currentTarget.open)}>
          <summary className="cursor-pointer">Read it by another calibration, side by side</summary>
          {comparing && <Rereduce recording={recording} />}
        </details>
      )}
      {recording.issues.length > 0 && (
        <details className="mt-2 text-sm">
          <summary className="cursor-pointer">{recording.issues.length} remarks on the data</summary>
          <ul className="num muted mt-1 max-h-40 overflow-auto text-xs">
            {recording.issues.map((issue, i) => (
              <li key={i}>
                {issue.code}: {issue.text}
              </li>
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}

function useConverted(recording: Recording, bench: BenchContext) {
  const [state, setState] = useState<{ converted: Converted | null; thinned: number; error: string | null }>({
    converted: null,
    thinned: 1,
    error: null,
  });
  const { gadget, calibrations } = bench;
  useEffect(() => {
    const abort = new AbortController();
    void (async () => {
      try {
        const block = await fetchWindow(recording.id, MOST_SAMPLES, abort.signal);
        const converted: Converted = [];
        for (const channel of gadget.channels) {
          const raw = channel.line.sources.map(
            (s) => block.columns[block.header.columns.findIndex((c) => c.name === s.column)],
          );
          if (raw.includes(undefined)) continue;
          const { line } = calibratedLine(channel.line, channel.id, calibrations);
          const rate = recording.sampleRateHz / (block.header.reducedBy > 1 ? block.header.reducedBy / 2 : 1);
          const reading = await lineWorker().convert(
            line,
            rate,
            block.times,
            raw.map((column) => column!),
            2000,
          );
          if (abort.signal.aborted) return;
          const unit = compileLine(line, { sampleRateHz: rate }).outputs[0]!.unit;
          converted.push({ name: channel.name, unit, reading });
        }
        setState({ converted, thinned: block.header.reducedBy, error: null });
      } catch (error) {
        if (!abort.signal.aborted) setState({ converted: null, thinned: 1, error: (error as Error).message });
      }
    })();
    return () => abort.abort();
  }, [recording.id, recording.sampleRateHz, gadget.channels, calibrations]);
  return state;
}
