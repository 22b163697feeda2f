import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { Gadget, Trial, TrialRule } from '@lucky-needle/core/model';
import { useNoteTrialMutation } from '../../../api/trialApi.ts';
import { problemOf } from '../../../api/problemOf.ts';
import { ProblemNote } from '../../../parts/ProblemNote.tsx';
import { Afar } from './Afar.tsx';
import { DaysCard } from './DaysCard.tsx';
import { FiguresCard } from './FiguresCard.tsx';
import { bestOfEach, labelsOf } from './labels.ts';
import { NextLabel } from './NextLabel.tsx';
import { RankingCard } from './RankingCard.tsx';
import { RuleForm } from './RuleForm.tsx';
import { TrialTable } from './TrialTable.tsx';
import { TrialsOut } from './TrialsOut.tsx';
import { MOST_LAID, TrialsOver } from './TrialsOver.tsx';
import type { useTrials } from './useTrials.ts';

interface Props {
  readonly gadget: Gadget;
  readonly isRecording: boolean;
  readonly trials: ReturnType<typeof useTrials>;
  /** Ids of the trials that are looked for; null for all. */
  readonly only: ReadonlySet<string> | null;
}

type Said = Partial<Pick<Trial, 'label' | 'note' | 'excluded'>>;

/** Runs as experiments: a row for each try as it comes, what was tried, which is best, and what became of it over the days. */
export function TrialsPanel({ gadget, isRecording, trials: { trials: found, share, problem }, only }: Props) {
  const [note, noting] = useNoteTrialMutation();
  const [isChanging, setChanging] = useState(false);
  const [isAfar, setAfar] = useState(false);
  const [next, setNext] = useState<string | null>(null);
  const say = useCallback(
    ({ recordingId, fromS, toS, saidAtS, label, note: text, excluded }: Trial, said: Said) =>
      void note({
        recordingId,
        body: { fromS, toS, replacesS: saidAtS, label, note: text, excluded, ...said },
      }),
    [note],
  );
  const onLabel = useCallback((trial: Trial, label: string) => say(trial, { label }), [say]);
  const onNote = useCallback((trial: Trial, text: string) => say(trial, { note: text }), [say]);
  const [laid, setLaid] = useState<readonly string[] | null>(null);
  const all = found?.trials;
  const chosen = useMemo(() => laid ?? bestOfEach(all ?? [], found?.rule ?? null), [laid, all, found?.rule]);
  // The table keeps its cells, and what is typed in them, only as long as its acts stay the same.
  const chosenNow = useRef(chosen);
  useEffect(() => {
    chosenNow.current = chosen;
  }, [chosen]);
  const onChoose = useCallback(({ id }: Trial) => {
    const now = chosenNow.current;
    setLaid(now.includes(id) ? now.filter((c) => c !== id) : [...now, id].slice(-MOST_LAID));
  }, []);
  const listed = useMemo(() => (all ?? []).filter((t) => !only || only.has(t.id)), [all, only]);
  const over = useMemo(() => (all ?? []).filter((t) => chosen.includes(t.id)), [all, chosen]);
  const onExclude = useCallback((trial: Trial, excluded: string | null) => say(trial, { excluded }), [say]);
  useNextLabel(found?.trials ?? null, next, onLabel);
  if (!found) {
    if (problem) return <ProblemNote problem={problem} />;
    return share === null ? null : (
      <p role="status" className="panel muted mb-4 text-sm">
        Splitting runs into trials…{' '}
        <progress className="progress progress-primary w-40" value={share} max={1} />
      </p>
    );
  }
  const { rule, trials, lost } = found;
  if (!rule) return null;
  const channel = gadget.channels.find((c) => c.id === rule.channelId);
  // A rule whose figure is gone is ranked by the first that there is.
  const made = trials.at(-1)?.figures ?? [];
  const figure = made.find((f) => f.id === rule.figureId) ?? made[0] ?? null;
  const counting = trials.filter((t) => t.excluded === null && !t.isOpen).length;
  return (
    <section className="mb-4 grid gap-4" aria-label="Trials">
      <div className="grid items-start gap-4 xl:grid-cols-[1fr_22rem]">
        <div className="grid min-w-0 gap-4">
          <div className="panel min-w-0">
            <div className="flex flex-wrap items-center gap-3">
              <h2 className="min-w-48 grow basis-0 text-base font-semibold">
                Trials <span className="muted text-sm font-normal">{ruleInWords(rule, gadget)}</span>
              </h2>
              {figure && (
                <button type="button" className="btn btn-ghost btn-sm" onClick={() => setAfar(true)}>
                  Full-screen view
                </button>
              )}
              {trials.length > 0 && <TrialsOut gadget={gadget} rule={rule} trials={trials} />}
              <button
                type="button"
                className="btn btn-ghost btn-sm"
                aria-expanded={isChanging}
                onClick={() => setChanging(!isChanging)}
              >
                Change rule
              </button>
            </div>
            {isChanging && (
              <RuleForm gadget={gadget} kept={rule} now={found} onDone={() => setChanging(false)} />
            )}
            {found.problem && (
              <p role="alert" className="mt-2 text-sm text-error">
                {found.problem}
              </p>
            )}
            <ProblemNote problem={problemOf(noting.error)} />
            {isRecording && (
              <div className="mt-3">
                <NextLabel labels={labelsOf(trials)} next={next} onNext={setNext} />
              </div>
            )}
            {lost.length > 0 && (
              <p className="mt-2 text-sm text-warning">
                {lost.length === 1
                  ? '1 label or note belongs to a trial that this rule no longer finds. It is kept and comes back if the trial reappears.'
                  : `${lost.length} labels or notes belong to trials that this rule no longer finds. They are kept and come back if the trials reappear.`}
              </p>
            )}
            {trials.length === 0 ? (
              <p className="muted mt-3 text-sm">
                {isRecording
                  ? 'Recording. The first trial will appear here automatically.'
                  : 'No trials yet. Press Record, then make your first trial.'}
              </p>
            ) : (
              <div className="mt-2">
                <TrialTable
                  trials={listed}
                  rule={rule}
                  chosen={chosen}
                  onChoose={onChoose}
                  onLabel={onLabel}
                  onNote={onNote}
                  onExclude={onExclude}
                />
              </div>
            )}
            {trials.length > 0 && (
              <p className="muted mt-2 text-xs">
                {counting} of {trials.length} included. Results for {channel?.name ?? 'a deleted channel'},
                calculated with its current line and calibration.
              </p>
            )}
          </div>
          {channel && over.length > 0 && (
            <TrialsOver trials={over} labels={labelsOf(trials)} channel={channel} />
          )}
        </div>
        {figure && counting > 0 && (
          <div className="grid min-w-0 gap-4">
            <RankingCard trials={trials} rule={rule} figure={figure} />
            <DaysCard trials={trials} rule={rule} figure={figure} />
            <FiguresCard trials={trials} labels={labelsOf(trials)} />
          </div>
        )}
      </div>
      {isAfar && figure && (
        <Afar trials={trials} rule={rule} figure={figure} onClose={() => setAfar(false)} />
      )}
    </section>
  );
}

/** Gives each trial that is new the label that was chosen for the next. */
function useNextLabel(
  trials: readonly Trial[] | null,
  next: string | null,
  onLabel: (trial: Trial, label: string) => void,
): void {
  const seen = useRef<Set<string> | null>(null);
  useEffect(() => {
    if (!trials) return;
    const over = trials.filter((t) => !t.isOpen);
    if (seen.current && next !== null)
      for (const trial of over) if (!seen.current.has(trial.id) && trial.label === '') onLabel(trial, next);
    seen.current = new Set(over.map((t) => t.id));
  }, [trials, next, onLabel]);
}

function ruleInWords({ how, channelId, watchId, endWatchId }: TrialRule, { channels }: Gadget): string {
  const channel = channels.find((c) => c.id === channelId);
  const named = (id: string | null) => `“${channel?.watches?.find((w) => w.id === id)?.name ?? '?'}”`;
  const of = channel ? ` on ${channel.name}` : '';
  switch (how) {
    case 'run':
      return `one per run${of}`;
    case 'marks':
      return `marker to marker${of}`;
    case 'event':
      return `one per ${named(watchId)} event${of}`;
    case 'between':
      return `from ${named(watchId)} to ${named(endWatchId)}${of}`;
  }
}
