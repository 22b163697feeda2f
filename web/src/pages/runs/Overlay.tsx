import { useCallback, useMemo, useState } from 'react';
import type { PassesBody, Recording } from '@lucky-needle/core/model';
import { UNITS } from '@lucky-needle/core/units';
import { useJoinRunsMutation } from '../../api/runApi.ts';
import { problemOf } from '../../api/problemOf.ts';
import { findPassing } from '../../api/readings.ts';
import { canRead, lookLine } from '../../app/lookLine.ts';
import { useAsked } from '../../app/useAsked.ts';
import { useBench } from '../../app/useBench.ts';
import { useShelf } from '../../app/useShelf.ts';
import { Plot } from '../../parts/Plot.tsx';
import type { PlotInk, PlotSeries } from '../../parts/plotTypes.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { alignedAt, type Alignment } from './alignedAt.ts';
import { useConverted, type Converted } from './useConverted.ts';

const INKS: readonly PlotInk[] = ['trace', 'trace2', 'trace3', 'error', 'muted'];
const TEXTS = ['text-primary', 'text-info', 'text-secondary', 'text-error', 'muted'];

interface Props {
  readonly runs: readonly Recording[];
  onJoined(id: string): void;
}

/** Several runs laid over each other: from their starts, from a mark, or from where the reading first passes a value. */
export function Overlay({ runs, onJoined }: Props) {
  const { gadget } = useBench();
  // Only what all of them can show is worth laying over each other.
  const shared = gadget.channels.filter((c) => runs.every((r) => canRead(r, gadget, c)));
  const [channel, setChannel] = useState(shared[0]?.name ?? '');
  const [by, setBy] = useState<'start' | 'passes' | `mark ${string}`>('start');
  const [level, setLevel] = useState('');
  const [loaded, setLoaded] = useState<ReadonlyMap<string, Converted>>(new Map());
  const [join, joining] = useJoinRunsMutation();
  const marks = [...new Set(runs.flatMap((r) => r.markers.map((m) => m.text)))];
  const alignment: Alignment = useMemo(
    () =>
      by === 'start'
        ? { kind: 'start' }
        : by === 'passes'
          ? { kind: 'passes', level: level.trim() === '' ? Number.NaN : Number(level.replace(',', '.')) }
          : { kind: 'mark', text: by.slice(5) },
    [by, level],
  );
  const passing = usePassing(runs, channel, alignment);
  const laid = runs.map((run, i) => {
    const curve = loaded.get(run.id)?.find((c) => c.name === channel) ?? null;
    const zero = curve && alignedAt(run, alignment, passing?.get(run.id) ?? null);
    return { run, i, curve, zero };
  });
  const long = laid.some(({ run }) => (run.lastTimeS ?? 0) - (run.firstTimeS ?? 0) > 300);
  const series: PlotSeries[] = laid.flatMap(({ run, i, curve, zero }) =>
    curve && zero !== null
      ? [
          {
            label: run.name,
            x: curve.reading.times.map((t) => (t - zero) / (long ? 60 : 1)),
            y: curve.reading.values,
            ink: INKS[i % INKS.length]!,
            style: 'line' as const,
          },
        ]
      : [],
  );
  const unit = laid.find((l) => l.curve)?.curve?.unit;
  return (
    <section className="panel grid min-w-0 gap-3" aria-label="Overlay">
      {runs.map((run) => (
        <Loader key={run.id} run={run} onLoaded={(c) => setLoaded((old) => new Map(old).set(run.id, c))} />
      ))}
      <header className="flex flex-wrap items-center gap-3">
        <h2 className="section-title grow">{runs.length} runs overlaid</h2>
        <button
          type="button"
          className="btn btn-sm"
          disabled={joining.isLoading}
          onClick={async () => {
            const name = `${runs.at(-1)!.name.slice(0, 60)}, joined`;
            const made = await join({ gadgetId: gadget.id, body: { name, ids: runs.map((r) => r.id) } });
            if (made.data) onJoined(made.data.id);
          }}
        >
          Join into one run
        </button>
      </header>
      <ProblemNote problem={problemOf(joining.error)} />
      <div className="flex flex-wrap items-center gap-3 text-sm">
        {shared.length > 1 && (
          <select
            className="select select-sm w-auto"
            aria-label="Overlay channel"
            value={channel}
            onChange={(e) => setChannel(e.target.value)}
          >
            {shared.map((c) => (
              <option key={c.id}>{c.name}</option>
            ))}
          </select>
        )}
        <label className="flex items-center gap-2">
          <span className="muted">Align at</span>
          <select
            className="select select-sm w-auto"
            value={by}
            onChange={(e) => setBy(e.target.value as typeof by)}
          >
            <option value="start">start of each run</option>
            <option value="passes">first crossing of…</option>
            {marks.map((m) => (
              <option key={m} value={`mark ${m}`}>
                marker “{m}”
              </option>
            ))}
          </select>
        </label>
        {by === 'passes' && (
          <label className="flex items-center gap-2">
            <input
              className="input input-sm num w-24"
              aria-label="Level"
              inputMode="decimal"
              value={level}
              onChange={(e) => setLevel(e.target.value)}
            />
            <span className="muted">{unit && UNITS[unit].symbol}</span>
          </label>
        )}
      </div>
      {shared.length === 0 && <p className="text-sm text-warning">These runs have no channel in common.</p>}
      <ul className="flex flex-wrap gap-x-4 gap-y-1 text-xs" aria-label="Runs in the overlay">
        {laid.map(({ run, i, curve, zero }) => (
          <li key={run.id} className={zero === null && curve ? 'text-warning' : TEXTS[i % TEXTS.length]}>
            <span aria-hidden>▬ </span>
            {run.name}
            {curve === null && shared.length > 0
              ? ', loading…'
              : curve !== null && zero === null
                ? ', has no such point'
                : ''}
          </li>
        ))}
      </ul>
      <Plot
        title={`${channel}, ${runs.length} runs`}
        series={series}
        x={{ label: by === 'start' ? 'Time since start' : 'Time since that point', unit: long ? 'min' : 's' }}
        y={{ label: unit ? UNITS[unit].dimension : '', unit: unit ? UNITS[unit].symbol : '' }}
        height={380}
      />
    </section>
  );
}

/** When each run's reading first passes the value that they are aligned by; null until that is known. */
function usePassing(
  runs: readonly Recording[],
  channelName: string,
  alignment: Alignment,
): ReadonlyMap<string, number | null> | null {
  const bench = useBench();
  const shelf = useShelf();
  const level = alignment.kind === 'passes' ? alignment.level : Number.NaN;
  const question = useMemo(() => {
    const channel = bench.gadget.channels.find((c) => c.name === channelName);
    if (!channel || !Number.isFinite(level)) return null;
    return runs.map((run) => ({
      recordingId: run.id,
      body: { line: lookLine(bench, channel, shelf, run), level } satisfies PassesBody,
    }));
  }, [bench, shelf, runs, channelName, level]);
  const ask = useCallback(
    async (questions: NonNullable<typeof question>, signal: AbortSignal) =>
      new Map(
        await Promise.all(
          questions.map(
            async ({ recordingId, body }) =>
              [recordingId, (await findPassing(recordingId, body, signal)).timeS] as const,
          ),
        ),
      ),
    [],
  );
  return useAsked(question, ask).answer;
}

/** Fetches one run; a component of its own, since runs come and go. */
function Loader({ run, onLoaded }: { run: Recording; onLoaded(converted: Converted): void }) {
  const bench = useBench();
  const { converted } = useConverted(run, bench, null);
  const [told, setTold] = useState<Converted | null>(null);
  if (converted && converted !== told) {
    setTold(converted);
    queueMicrotask(() => onLoaded(converted));
  }
  return null;
}
