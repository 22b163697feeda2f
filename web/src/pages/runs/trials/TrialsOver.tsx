import { useCallback, useMemo, useState } from 'react';
import type { Channel, LookedAt, Trial } from '@lucky-needle/core/model';
import { UNITS } from '@lucky-needle/core/units';
import { curveOf, lookAtRecording } from '../../../api/readings.ts';
import { lookLine } from '../../../app/lookLine.ts';
import { useAsked } from '../../../app/useAsked.ts';
import { useBench } from '../../../app/useBench.ts';
import { useShelf } from '../../../app/useShelf.ts';
import { Choice } from '../../../parts/Choice.tsx';
import { Plot } from '../../../parts/Plot.tsx';
import { dotOf, inkOf } from './labels.ts';
import { laidAt, type LaidBy } from './laidAt.ts';

interface Props {
  readonly trials: readonly Trial[];
  /** All labels of the gadget, so that each keeps its colour. */
  readonly labels: readonly string[];
  /** The channel that trials are cut by. */
  readonly channel: Channel;
}

/** Points of each curve: as many as a plot of this width shows. */
const POINTS = 1500;
/** Trials at once: more are no picture any more. */
export const MOST_LAID = 12;

/** Trials over each other, from their begins, their ends, their highest, or where they pass a value: their shapes and their pace. */
export function TrialsOver({ trials, labels, channel }: Props) {
  const bench = useBench();
  const shelf = useShelf();
  const [by, setBy] = useState<LaidBy>('begin');
  const [typed, setTyped] = useState('');
  const level = typed.trim() === '' ? Number.NaN : Number(typed.replace(',', '.'));
  const question = useMemo(
    () =>
      trials.flatMap(({ id, recordingId, fromS, toS }) => {
        const run = bench.recordings.find((r) => r.id === recordingId);
        if (!run) return [];
        // What comes before and after belongs to the shape.
        const beside = Math.max((toS - fromS) / 4, 24 / run.sampleRateHz);
        const stretch = {
          fromS: Math.max(run.firstTimeS ?? fromS, fromS - beside),
          toS: Math.min(run.lastTimeS ?? toS, toS + beside),
        };
        const lines = [lookLine(bench, channel, shelf, run)];
        return [{ id, recordingId, body: { lines, ...stretch, points: POINTS } }];
      }),
    [bench, shelf, channel, trials],
  );
  const ask = useCallback(
    async (questions: typeof question, signal: AbortSignal, told: (share: number) => void) => {
      const looks: (readonly [string, LookedAt])[] = [];
      for (const [k, { id, recordingId, body }] of questions.entries()) {
        const [look] = await lookAtRecording(recordingId, body, signal);
        looks.push([id, look!]);
        told((k + 1) / questions.length);
      }
      return looks;
    },
    [],
  );
  const { answer, error, share } = useAsked(question, ask);
  const laid = trials.flatMap((trial) => {
    const look = answer?.find(([id]) => id === trial.id)?.[1];
    if (!look) return [];
    const curve = curveOf(look);
    return [{ trial, curve, zero: laidAt(trial, curve, by, level), unit: look.unit }];
  });
  const unit = laid[0]?.unit;
  const without = by === 'passes' && Number.isNaN(level) ? [] : laid.filter((l) => l.zero === null);
  return (
    <section className="panel min-w-0" aria-label="Trial overlay">
      <div className="flex flex-wrap items-end gap-3">
        <h2 className="grow text-base font-semibold">
          {trials.length} trials overlaid{' '}
          <span className="muted text-sm font-normal">{channel.name}; select trials in the table</span>
        </h2>
        <Choice
          label="Align at"
          value={by}
          options={[
            ['begin', 'start of each trial'],
            ['end', 'end of each trial'],
            ['highest', 'maximum'],
            ['passes', 'first crossing of…'],
          ]}
          onChange={(id) => setBy(id as LaidBy)}
        />
        {by === 'passes' && (
          <label className="block">
            <span className="muted mb-1 block text-xs">{unit ? UNITS[unit].symbol : 'Level'}</span>
            <input
              className="input input-sm num w-24"
              aria-label="Level"
              inputMode="decimal"
              value={typed}
              onChange={(e) => setTyped(e.target.value)}
            />
          </label>
        )}
      </div>
      {share !== null && (
        <p role="status" className="muted mt-2 text-sm">
          Loading trials… <progress className="progress progress-primary w-40" value={share} max={1} />
        </p>
      )}
      {error && (
        <p role="alert" className="mt-2 text-sm text-error">
          {error}
        </p>
      )}
      {without.length > 0 && (
        <p className="mt-2 text-sm text-warning">
          {without.map(({ trial }) => `${trial.runName}, trial ${trial.number}`).join('; ')}: no such point.
        </p>
      )}
      <ul className="mt-2 flex flex-wrap gap-x-4 gap-y-1 text-xs" aria-label="Trials in the overlay">
        {laid.map(({ trial }) => (
          <li key={trial.id} className="flex items-center gap-1.5">
            <span aria-hidden className={`size-2.5 rounded-full ${dotOf(labels, trial.label)}`} />
            {trial.runName}, <span className="num">{trial.number}</span>
          </li>
        ))}
      </ul>
      <Plot
        title={`${channel.name}, overlay of ${trials.length} trials`}
        height={300}
        series={laid.flatMap(({ trial, curve, zero }) =>
          zero === null
            ? []
            : [
                {
                  label: `${trial.runName}, ${trial.number}`,
                  x: curve.times.map((t) => t - zero),
                  y: curve.values,
                  ink: inkOf(labels, trial.label),
                  style: 'line' as const,
                },
              ],
        )}
        x={{ label: by === 'begin' ? 'Time since start' : 'Time since that point', unit: 's' }}
        y={{ label: channel.name, unit: unit ? UNITS[unit].symbol : '' }}
      />
    </section>
  );
}
