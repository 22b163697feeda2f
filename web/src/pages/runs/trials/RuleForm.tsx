import { useState } from 'react';
import { readingUnit } from '@lucky-needle/core/plan';
import type { Gadget, TrialRule, WatchSpec } from '@lucky-needle/core/model';
import { ruleFault } from '@lucky-needle/core/trial';
import { problemOf } from '../../../api/problemOf.ts';
import { useKeepRuleMutation } from '../../../api/trialApi.ts';
import { Choice } from '../../../parts/Choice.tsx';
import { ProblemNote } from '../../../parts/ProblemNote.tsx';
import { useSaveGadget } from '../../../parts/useSaveGadget.ts';
import { faultOfWatch, LevelFields } from './LevelFields.tsx';
import { useTrials, type Trials } from './useTrials.ts';

interface Props {
  readonly gadget: Gadget;
  readonly kept: TrialRule;
  readonly now: Trials;
  onDone(): void;
}

const HOW: Record<TrialRule['how'], string> = {
  run: 'whole run',
  event: 'each event',
  between: 'start event to end event',
  marks: 'marker to marker',
};

/** Another rule, tried on the runs that are there before it is kept. */
export function RuleForm({ gadget, kept, now, onDone }: Props) {
  const [rule, setRule] = useState(kept);
  const [keep, keeping] = useKeepRuleMutation();
  const channels = gadget.channels.filter((c) => c.figures?.length);
  const channel = channels.find((c) => c.id === rule.channelId);
  const stored = channel?.watches ?? [];
  const [draft, setDraft] = useState<readonly WatchSpec[] | null>(null);
  const watches = draft ?? stored;
  const isTried = JSON.stringify(watches) !== JSON.stringify(stored);
  const fault = ruleFault(rule, gadget) ?? watches.map(faultOfWatch).find((f) => f !== null) ?? null;
  const tried = useTrials(gadget.id, fault ? kept : rule, false, isTried && !fault ? watches : undefined);
  const { save, saving, problem } = useSaveGadget(gadget);
  const used = watches.filter((w) => w.id === rule.watchId || w.id === rule.endWatchId);
  const change = (part: Partial<TrialRule>) => setRule({ ...rule, ...part });
  const isSame = JSON.stringify(rule) === JSON.stringify(kept) && !isTried;
  const began = (list: Trials) => new Set(list.trials.map((t) => t.id));
  const differs = () => {
    if (!tried.trials) return tried.problem?.detail ?? 'Calculating…';
    if (tried.trials.problem) return tried.trials.problem;
    const [before, after] = [began(now), began(tried.trials)];
    const appear = [...after].filter((id) => !before.has(id)).length;
    const vanish = [...before].filter((id) => !after.has(id)).length;
    return `${after.size} ${after.size === 1 ? 'trial' : 'trials'} instead of ${before.size}: ${appear} added, ${vanish} removed.`;
  };
  return (
    <form
      aria-label="Trial rule"
      className="mt-3 grid gap-3 border-t border-base-300 pt-3 text-sm"
      onSubmit={async (e) => {
        e.preventDefault();
        if (
          isTried &&
          !(await save(
            { channels: withWatches(gadget, rule.channelId, watches) },
            'Event settings also saved on the Line page.',
          ))
        )
          return;
        if (!('error' in (await keep({ gadgetId: gadget.id, rule })))) onDone();
      }}
    >
      <div className="flex flex-wrap gap-3">
        <Choice
          label="Channel"
          value={rule.channelId}
          options={channels.map((c) => [c.id, c.name])}
          onChange={(channelId) => {
            setDraft(null);
            change({
              channelId,
              how: 'run',
              watchId: null,
              endWatchId: null,
              figureId: channels.find((c) => c.id === channelId)?.figures?.[0]?.id ?? null,
            });
          }}
        />
        <Choice
          label="One trial is"
          value={rule.how}
          options={(Object.keys(HOW) as TrialRule['how'][])
            .filter((how) => watches.length > 0 || how === 'run' || how === 'marks')
            .map((how) => [how, HOW[how]])}
          onChange={(how) =>
            change({
              how: how as TrialRule['how'],
              watchId: how === 'event' || how === 'between' ? (rule.watchId ?? watches[0]?.id ?? null) : null,
              endWatchId: how === 'between' ? (watches.at(-1)?.id ?? null) : null,
            })
          }
        />
        {(rule.how === 'event' || rule.how === 'between') && (
          <Choice
            label={rule.how === 'event' ? 'Event' : 'Start event'}
            value={rule.watchId ?? ''}
            options={watches.map((w) => [w.id, w.name])}
            onChange={(watchId) => change({ watchId })}
          />
        )}
        {rule.how === 'between' && (
          <Choice
            label="End event"
            value={rule.endWatchId ?? ''}
            options={watches.map((w) => [w.id, w.name])}
            onChange={(endWatchId) => change({ endWatchId })}
          />
        )}
        <Choice
          label="Rank by"
          value={rule.figureId ?? ''}
          options={(channel?.figures ?? []).map((f) => [f.id, f.name])}
          onChange={(figureId) => change({ figureId })}
        />
        <Choice
          label="Best is"
          value={rule.more ? 'more' : 'less'}
          options={[
            ['highest', 'more'],
            ['lowest', 'less'],
          ]}
          onChange={(more) => change({ more: more === 'more' })}
        />
      </div>
      {used.map((watch) => (
        <LevelFields
          key={watch.id}
          watch={watch}
          unit={(channel && readingUnit(gadget, channel)) ?? null}
          onChange={(next) => setDraft(watches.map((w) => (w.id === next.id ? next : w)))}
        />
      ))}
      <p role="status" className={fault ? 'text-error' : 'muted'}>
        {fault ?? (isSame ? 'This is the current rule.' : differs())}
      </p>
      <ProblemNote problem={problem ?? problemOf(keeping.error)} />
      <div className="flex gap-2">
        <button
          className="btn btn-primary btn-sm"
          disabled={isSame || fault !== null || keeping.isLoading || saving}
        >
          Save rule
        </button>
        <button type="button" className="btn btn-ghost btn-sm" onClick={onDone}>
          Cancel
        </button>
      </div>
    </form>
  );
}

const withWatches = ({ channels }: Gadget, channelId: string, watches: readonly WatchSpec[]) =>
  channels.map((c) => (c.id === channelId ? { ...c, watches: [...watches] } : c));
