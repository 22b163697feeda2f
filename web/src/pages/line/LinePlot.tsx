import { useMemo } from 'react';
import { givesDirection, type CompiledLine } from '@lucky-needle/core/line';
import type { Recording, SeenEvent, WatchSpec } from '@lucky-needle/core/model';
import { UNITS, type UnitId } from '@lucky-needle/core/units';
import { EmptyState } from '../../parts/EmptyState.tsx';
import { fittedStretch, StretchSteps } from '../../parts/StretchSteps.tsx';
import { MoveHint } from '../../parts/MoveHint.tsx';
import { Plot } from '../../parts/Plot.tsx';
import { roundTheCircle } from '../../parts/roundTheCircle.ts';
import type { PlotInk } from '../../parts/plotTypes.ts';
import { eventOverlay } from '../../parts/counts/eventOverlay.ts';
import { CLOSE_S, LIVE_S, type LineData } from './useLineData.ts';

export interface PlotChoice {
  /** Recording that is looked at; null for the live link. */
  readonly recordingId: string | null;
  /** How much of the live link, s. */
  readonly liveS: number;
  /** Stage that is shown; null follows the opened one. */
  readonly at: number | null;
  /** Stage beside it; null is what goes into a filter, -1 nothing. */
  readonly beside: number | null;
  /** Stretch of the recording, s since its start; null for all of it. */
  readonly window: { readonly fromS: number; readonly toS: number } | null;
}

interface Props {
  readonly line: CompiledLine | null;
  readonly data: LineData;
  /** Stages drawn: the one shown, then the one beside it. */
  readonly taps: readonly number[];
  readonly choice: PlotChoice;
  readonly recordings: readonly Recording[];
  readonly recording: Recording | null;
  readonly sampleRateHz: number;
  /** What counts on the reading at the end of the line, and what was found. */
  readonly watches: readonly WatchSpec[];
  readonly events: readonly SeenEvent[];
  /** Newest moment of the live link, s. */
  readonly newestS: number;
  onChoice(choice: PlotChoice): void;
}

/** Chosen as if it were a recording. */
const CLOSE = 'close';

const INKS: readonly PlotInk[] = ['fit', 'muted'];

/** Readings after one stage, and after another beside it, over the live minute or any stretch of a recording. */
export function LinePlot(props: Props) {
  const { line, data, taps, choice, recordings, recording, sampleRateHz, onChoice } = props;
  const lengthS = recording ? (recording.lastTimeS ?? 0) - (recording.firstTimeS ?? 0) : choice.liveS;
  const { fromS, toS } = choice.window ?? { fromS: 0, toS: lengthS };
  const minutes = recording !== null && toS - fromS > 300;
  const scale = minutes ? 60 : 1;
  const names = useMemo(() => stageNames(line), [line]);
  const units = useMemo(() => taps.map((tap) => unitAt(line, tap)), [line, taps]);
  const x = useMemo(
    () =>
      recording
        ? { label: 'Time since start', unit: minutes ? 'min' : 's', min: fromS / scale, max: toS / scale }
        : { label: 'Time before now', unit: 's', min: -choice.liveS, max: 0 },
    [recording, minutes, fromS, toS, scale, choice.liveS],
  );
  const { watches, events, newestS } = props;
  const zeroS = recording ? (recording.firstTimeS ?? 0) : newestS;
  const overlay = useMemo(
    () => eventOverlay(watches, events, (timeS) => (timeS - zeroS) / scale, x.min, x.max),
    [watches, events, zeroS, scale, x],
  );
  // Events stand on the reading: elsewhere along the line they would hang in the air.
  const atEnd = taps.indexOf(line?.stages.length ?? -1);
  // Curves of one unit share an axis; others get a plot of their own.
  const plots = useMemo(
    () =>
      [...new Set(units)].map((unit) => ({
        unit,
        y: {
          label: taps.flatMap((tap, i) => (units[i] === unit ? [names[tap] ?? ''] : []))[0] ?? '',
          unit: UNITS[unit].symbol,
        },
        // Drawn last lies on top: the stage that is shown.
        series: data.curves
          .map((curve, i) => ({ curve: isDirection(line, taps[i]!) ? roundTheCircle(curve) : curve, i }))
          .filter(({ i }) => units[i] === unit)
          .reverse()
          .map(({ curve, i }) => ({
            label: names[taps[i]!] ?? '',
            x: scale === 1 ? curve.times : curve.times.map((t) => t / scale),
            y: curve.values,
            ink: INKS[i]!,
            style: 'line' as const,
          })),
      })),
    [line, units, taps, names, data.curves, scale],
  );
  const least = 8 / sampleRateHz;
  const reach = useMemo(
    () => ({ from: 0, to: lengthS / scale, least: least / scale }),
    [lengthS, scale, least],
  );
  if (!line) return null;
  const set = (change: Partial<PlotChoice>) => onChoice({ ...choice, ...change });
  const zoomTo = (from: number, to: number) => set({ window: fittedStretch(from, to, lengthS, least) });
  const selects = 'select select-xs w-auto max-w-48';
  return (
    <section className="panel min-w-0" aria-label="Line preview">
      <div className="mb-2 flex flex-wrap items-center gap-x-3 gap-y-2 text-sm">
        <label className="flex items-center gap-1.5">
          <span className="muted text-xs">Source</span>
          <select
            className={selects}
            value={choice.recordingId ?? (choice.liveS === CLOSE_S ? CLOSE : '')}
            onChange={(e) =>
              set(
                e.target.value === CLOSE
                  ? { recordingId: null, window: null, liveS: CLOSE_S }
                  : { recordingId: e.target.value || null, window: null, liveS: LIVE_S },
              )
            }
          >
            <option value="">Live, last minute</option>
            <option value={CLOSE}>Live, last {CLOSE_S} s</option>
            {recordings.map((r) => (
              <option key={r.id} value={r.id}>
                {r.name} ({r.sampleCount.toLocaleString('en')})
              </option>
            ))}
          </select>
        </label>
        <label className="flex items-center gap-1.5">
          <span className="muted text-xs">Show</span>
          <select
            className={selects}
            value={choice.at ?? ''}
            onChange={(e) => set({ at: e.target.value === '' ? null : Number(e.target.value) })}
          >
            <option value="">output of the open stage</option>
            {names.map((name, k) => (
              <option key={k} value={k}>
                {name}
              </option>
            ))}
          </select>
        </label>
        <label className="flex items-center gap-1.5">
          <span className="muted text-xs">Compare with</span>
          <select
            className={selects}
            value={choice.beside ?? ''}
            onChange={(e) => set({ beside: e.target.value === '' ? null : Number(e.target.value) })}
          >
            <option value="">input of a filter</option>
            <option value={-1}>nothing</option>
            {names.map((name, k) => (
              <option key={k} value={k}>
                {name}
              </option>
            ))}
          </select>
        </label>
        {recording && (
          <div className="ml-auto">
            <StretchSteps
              fromS={fromS}
              toS={toS}
              lengthS={lengthS}
              leastS={least}
              unit={minutes ? 'min' : 's'}
              onZoom={(window) => set({ window })}
            />
          </div>
        )}
      </div>
      {data.doing && (
        <div role="status" className="mb-2 flex items-center gap-3 text-sm">
          <span className="muted">
            {data.doing.what}, {Math.round(100 * data.doing.share)} %
          </span>
          <progress className="progress progress-primary w-40" value={data.doing.share} max={1} />
          <button type="button" className="btn btn-ghost btn-xs" onClick={() => data.cancel()}>
            Cancel
          </button>
        </div>
      )}
      {data.error && (
        <p role="alert" className="mb-2 text-sm text-error">
          {data.error}
        </p>
      )}
      {data.curves.length === 0 ? (
        !data.doing &&
        !data.error && (
          <EmptyState title="No readings to preview">
            {recording
              ? 'Nothing has been calculated yet. Choose the run again, or another one.'
              : 'The preview shows the last minute of live readings, or a run. Set up a link on the Link page, or connect the gadget.'}
          </EmptyState>
        )
      ) : (
        <>
          {plots.map(({ unit, y, series }) => (
            <Plot
              key={unit}
              title={`${y.label}, ${recording ? recording.name : 'last minute'}`}
              series={atEnd >= 0 && units[atEnd] === unit ? [...series, ...overlay.series] : series}
              marks={atEnd >= 0 ? overlay.marks : undefined}
              x={x}
              y={y}
              height={plots.length > 1 ? 170 : 260}
              onSelect={recording ? (a, b) => zoomTo(a * scale, b * scale) : undefined}
              reach={reach}
            />
          ))}
          <p className="muted mt-1 text-xs">
            {taps.map((tap, i) => (
              <span key={i} className="mr-4 whitespace-nowrap">
                <span
                  aria-hidden
                  className={`mr-1 inline-block h-0.5 w-4 align-middle ${i === 0 ? 'bg-primary' : 'bg-base-content/55'}`}
                />
                {names[tap]}
              </span>
            ))}
            {atEnd >= 0 && events.some((e) => e.what === 'event') && (
              <span className="mr-4 whitespace-nowrap">
                <span
                  aria-hidden
                  className="mr-1 inline-block size-2 rounded-full border-2 border-success align-middle"
                />
                event
                {events.some((e) => !e.counted) && ' (×: ignored)'}
              </span>
            )}
            <span className="num">{data.samples.toLocaleString('en')}</span> raw rows
            {recording && (
              <>
                . <MoveHint />
              </>
            )}
          </p>
        </>
      )}
    </section>
  );
}

/** Whether what comes after a stage is an angle round the circle. */
const isDirection = (line: CompiledLine | null, tap: number) =>
  line !== null && givesDirection({ ...line.spec, stages: line.stages.slice(0, tap).map((s) => s.spec) });

function stageNames(line: CompiledLine | null): string[] {
  if (!line) return [];
  return [`Raw ${line.sources[0]!.name}`, ...line.stages.map((s, k) => `${k + 1}. ${s.kind.title}`)];
}

function unitAt(line: CompiledLine | null, tap: number): UnitId {
  return (tap === 0 ? line?.sources[0]?.unit : line?.stages[tap - 1]?.outputs[0]?.unit) ?? 'count';
}
