import type {
  Gadget,
  Recording,
  TrialNote,
  TrialNoteBody,
  TrialRule,
  TrialsAnswer,
  WatchSpec,
} from '@lucky-needle/core/model';
import { nowFigures, readoutSpec, shelfWith } from '@lucky-needle/core/plan';
import { firstRule, ruleFault, withNotes, type BareTrial } from '@lucky-needle/core/trial';
import { notFound, ProblemError } from '../http/problem.ts';
import { trialsOfRecording, type RecordingCut, type TrialsOfRecording } from '../readings/recordingTrials.ts';
import { asRecorded } from '../readings/feedRecording.ts';
import type { Bench } from './bench.ts';
import { Patience } from './patience.ts';

/** Runs that are cut, the newest first. */
const MOST_RUNS = 500;
/** Cuts that are kept, so that a page that comes back does not wait again. */
const MOST_KEPT = 1000;
/** Walks that are kept: each mark and each change of a line begins another, and the one before is of no use. */
const MOST_WALKS = 20;

interface Cut {
  readonly problem: string | null;
  readonly trials: readonly BareTrial[];
}

/** Runs as experiments: what each try came to, and what its maker says of it. */
export function trialsService(bench: Bench) {
  const { tables, knex } = bench;
  const patience = new Patience<Cut>();
  /** Cuts of runs that are over, and the walks of those that are not. */
  const kept = new Map<string, RecordingCut>();
  const walks = new Map<string, Promise<TrialsOfRecording>>();

  async function gadgetOf(id: string): Promise<Gadget> {
    const gadget = await tables.gadgets.find(id);
    if (!gadget) throw notFound('gadget', id);
    return gadget;
  }

  /** What cuts the runs of a gadget: it changes with its lines, calibrations and parts. */
  async function knifeOf(gadget: Gadget, rule: TrialRule) {
    const calibrations = await tables.calibrations.list(gadget.id);
    const parts = shelfWith((await tables.parts.list()).map((o) => o.part));
    return (recording: Recording) => {
      const { channels } = readoutSpec(gadget, calibrations, parts, recording.sampleRateHz);
      const read = asRecorded(recording, channels);
      return {
        channels: read,
        key: JSON.stringify([recording.id, recording.pieces, recording.markers, rule, read]),
      };
    };
  }

  async function cut(
    recording: Recording,
    { channels, key }: ReturnType<Awaited<ReturnType<typeof knifeOf>>>,
    rule: TrialRule,
    told: (share: number) => void,
  ): Promise<RecordingCut> {
    const whole = `${key} ${recording.sampleCount}`;
    const known = kept.get(whole);
    if (known) return known;
    if (recording.sampleCount === 0) return { problem: null, trials: [] };
    const walk = walks.get(key) ?? trialsOfRecording(knex, recording, channels, rule);
    walks.set(key, walk);
    if (walks.size > MOST_WALKS) walks.delete(walks.keys().next().value!);
    let found: RecordingCut;
    try {
      found = await (await walk).upTo(recording, told);
    } catch (error) {
      // One that was broken off has fed some rows: begun anew, it feeds none twice.
      walks.delete(key);
      throw error;
    }
    if (recording.state !== 'recording') {
      walks.delete(key);
      kept.set(whole, found);
      if (kept.size > MOST_KEPT) kept.delete(kept.keys().next().value!);
    }
    return found;
  }

  async function work(
    gadget: Gadget,
    rule: TrialRule,
    runs: readonly Recording[],
    told: (share: number) => void,
  ): Promise<Cut> {
    const knife = await knifeOf(gadget, rule);
    const trials: BareTrial[] = [];
    let problem: string | null = null;
    for (const [k, run] of runs.entries()) {
      const found = await cut(run, knife(run), rule, (share) => told((k + share) / runs.length));
      told((k + 1) / runs.length);
      problem ??= found.problem;
      trials.push(...asTold(gadget, rule, run, found));
    }
    return { problem, trials };
  }

  async function ruleOf(gadget: Gadget): Promise<TrialRule | null> {
    return (await tables.trials.rule(gadget.id)) ?? firstRule(gadget);
  }

  return {
    /** Trials of all runs that count, oldest first, by the gadget's rule or by one that is being tried; or how much is done. */
    async look(
      gadgetId: string,
      tried: TrialRule | null,
      watches?: readonly WatchSpec[],
    ): Promise<TrialsAnswer> {
      const stored = await gadgetOf(gadgetId);
      const rule = tried ?? (await ruleOf(stored));
      const gadget = watches && rule ? watchedBy(stored, rule.channelId, watches) : stored;
      if (!rule)
        return {
          rule: null,
          trials: [],
          lost: [],
          problem: 'No results yet. Add a result to a channel on the Line page.',
        };
      const fault = ruleFault(rule, gadget);
      if (fault) return { rule, trials: [], lost: [], problem: fault };
      const runs = (await tables.recordings.list(gadget.id, MOST_RUNS, 0))
        .filter((r) => r.excluded === null)
        .toReversed();
      const calibrations = await tables.calibrations.list(gadget.id);
      const key = JSON.stringify([
        gadget.id,
        gadget.version,
        calibrations.filter((c) => c.state === 'in use').map((c) => c.id),
        rule,
        watches ?? null,
        runs.map((r) => [r.id, r.pieces, r.markers, r.state === 'recording' ? null : r.sampleCount]),
      ]);
      const answer = await patience.ask(key, (told) => work(gadget, rule, runs, told));
      if (typeof answer === 'number') return { share: answer };
      // What was said of trials is never older than the look.
      const notes = await tables.trials.notes(runs.map((r) => r.id));
      return { rule, problem: answer.problem, ...withNotes(answer.trials, notes) };
    },

    async setRule(gadgetId: string, rule: TrialRule): Promise<TrialRule> {
      const gadget = await gadgetOf(gadgetId);
      const fault = ruleFault(rule, gadget);
      if (fault) throw invalid(fault, 'Choose a trial rule on the Runs page.', 'rule');
      await tables.trials.setRule(gadgetId, rule);
      await tables.logbook.write(gadgetId, 'runs', `Runs are split into trials ${inWords(rule, gadget)}.`);
      bench.changed(gadgetId, 'recordings');
      return rule;
    },

    /** What a maker says of a trial; one that says nothing any more is none. */
    async note(recordingId: string, { fromS, toS, replacesS, ...said }: TrialNoteBody): Promise<TrialNote> {
      const recording = await tables.recordings.find(recordingId);
      if (!recording) throw notFound('recording', recordingId);
      const [first, last] = [recording.firstTimeS ?? 0, recording.lastTimeS ?? 0];
      if (!(fromS >= first && fromS <= last && toS >= fromS))
        throw invalid(
          `"${recording.name}" has no section from ${fromS} to ${toS} s: the run goes from ${first} to ${last} s.`,
          'Choose a trial within the run.',
          'fromS',
        );
      const note = { recordingId, atS: fromS, ...said };
      await tables.trials.setNote(note, replacesS);
      bench.changed(recording.gadgetId, 'recordings');
      return note;
    },
  };
}

const invalid = (detail: string, wayOut: string, field: string) =>
  new ProblemError(422, 'invalid-trial', 'Invalid trial', detail, wayOut, field);

/** A gadget with what counts on a channel set otherwise. */
const watchedBy = (gadget: Gadget, channelId: string, watches: readonly WatchSpec[]): Gadget => ({
  ...gadget,
  channels: gadget.channels.map((c) => (c.id === channelId ? { ...c, watches: [...watches] } : c)),
});

/** Cut trials as they are told. */
function asTold(gadget: Gadget, rule: TrialRule, run: Recording, { trials }: RecordingCut): BareTrial[] {
  const channel = gadget.channels.find((c) => c.id === rule.channelId)!;
  const beganMs = Date.parse(run.startedAt) - 1000 * (run.firstTimeS ?? 0);
  return trials.map(({ fromS, toS, isOpen, figures }, k) => ({
    id: `${run.id}@${fromS.toFixed(3)}`,
    recordingId: run.id,
    runName: run.name,
    number: k + 1,
    fromS,
    toS,
    at: new Date(beganMs + 1000 * fromS).toISOString(),
    isOpen,
    figures: nowFigures(gadget, channel, figures),
  }));
}

function inWords({ how, channelId, watchId, endWatchId }: TrialRule, gadget: Gadget): string {
  const channel = gadget.channels.find((c) => c.id === channelId)!;
  const named = (id: string | null) => `“${channel.watches?.find((w) => w.id === id)?.name ?? ''}”`;
  switch (how) {
    case 'run':
      return `by ${channel.name}: one per run`;
    case 'marks':
      return `by ${channel.name}: from marker to marker`;
    case 'event':
      return `by ${channel.name}: one per ${named(watchId)} event`;
    case 'between':
      return `by ${channel.name}: from ${named(watchId)} to ${named(endWatchId)}`;
  }
}
