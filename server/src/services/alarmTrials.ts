import { alarmFault, inUnitOf } from '@lucky-needle/core/alarm';
import type { WatchedEvent } from '@lucky-needle/core/detect';
import type {
  AlarmRule,
  AlarmTrialAnswer,
  AlarmTrialBody,
  AlarmTrialResult,
  AlarmTruth,
  Gadget,
  Recording,
} from '@lucky-needle/core/model';
import { briefFor, cannotWatch, figureBrief, rangeIn, readoutSpec, shelfWith } from '@lucky-needle/core/plan';
import { alarmTrial, type TrueEvent } from '@lucky-needle/core/trial';
import type { UnitId } from '@lucky-needle/core/units';
import { notFound, ProblemError } from '../http/problem.ts';
import { asRecorded, feedRecording, openRecordingReadout } from '../readings/feedRecording.ts';
import type { Bench } from './bench.ts';
import { Patience } from './patience.ts';

/** Alarms tried on runs before they are trusted: the same engine over the same readings as live. */
export function alarmTrialsService(bench: Bench) {
  const { tables, knex } = bench;
  const patience = new Patience<AlarmTrialResult>();

  async function work(
    gadget: Gadget,
    recording: Recording,
    { rule, truth, withinS }: AlarmTrialBody,
    told: (share: number) => void,
  ): Promise<AlarmTrialResult> {
    const calibrations = await tables.calibrations.list(gadget.id);
    const parts = shelfWith((await tables.parts.list()).map((o) => o.part));
    const { channels } = readoutSpec(gadget, calibrations, parts, recording.sampleRateHz);
    const read = asRecorded(recording, channels);
    const opened = await openRecordingReadout(knex, recording, read, [
      rule.channelId,
      ...(truth.kind === 'watch' ? [truth.channelId] : []),
    ]);
    const at = opened.needed.findIndex((c) => c.id === rule.channelId);
    const ends = opened.readout.readout.lines[at]?.line?.outputs[0]?.unit ?? null;
    const unitOf = (): UnitId | null =>
      rule.figureId === null
        ? ends
        : (opened.readout.figures(at).find((f) => f.id === rule.figureId)?.unit ?? null);
    const trial = alarmTrial(rule, rangeOf(gadget, rule), withinS, (of, value) =>
      inUnitOf(of, unitOf(), value),
    );
    const figures = (timeS: number) => {
      if (rule.figureId === null) return;
      for (const f of opened.readout.figures(at))
        trial.figure(rule.channelId, f.id, timeS, f.value, f.atS, f.reason);
    };
    const was = truthOf(truth, recording);
    await feedRecording(
      knex,
      recording,
      opened,
      -Infinity,
      [],
      (channel, event) => {
        if (channel === at) figures(event.endS);
        was.event(opened.needed[channel]!.id, event);
      },
      told,
      (channel, stages) => {
        if (channel !== at) return;
        const { length, times, lanes } = stages.at(-1)!;
        for (let i = 0; i < length; i++)
          trial.reading(rule.channelId, times[i]!, lanes[0]!.values[i]!, lanes[0]!.reasons[i]!);
        if (length > 0) figures(times[length - 1]!);
      },
    );
    const [fromS, toS] = [recording.firstTimeS ?? 0, recording.lastTimeS ?? 0];
    return trial.end(fromS, toS, was.end(toS));
  }

  return {
    /** What an alarm would have done on a run, at its own level and at others; or how much is done. */
    async look(recordingId: string, body: AlarmTrialBody): Promise<AlarmTrialAnswer> {
      const recording = await tables.recordings.find(recordingId);
      if (!recording) throw notFound('recording', recordingId);
      const gadget = await tables.gadgets.find(recording.gadgetId);
      if (!gadget) throw notFound('gadget', recording.gadgetId);
      const fault = alarmFault(body.rule) ?? cannotWatch(gadget, body.rule);
      if (fault) throw notValid(fault, 'Correct the alarm and run the test again.', 'rule');
      if (!canTell(gadget, body.truth))
        throw notValid(
          'This channel has no event detector with that name.',
          'Choose an event on the Line page, or use markers.',
          'truth',
        );
      const key = JSON.stringify([recording.id, recording.pieces, recording.markers, gadget.version, body]);
      const answer = await patience.ask(key, (told) => work(gadget, recording, body, told));
      return typeof answer === 'number' ? { share: answer } : answer;
    },
  };
}

const notValid = (fault: string, wayOut: string, field: string) =>
  new ProblemError(422, 'invalid-alarm', 'Invalid alarm', fault, wayOut, field);

const canTell = (gadget: Gadget, truth: AlarmTruth) =>
  truth.kind !== 'watch' ||
  gadget.channels.some((c) => c.id === truth.channelId && c.watches?.some((w) => w.id === truth.watchId));

/** Gathers when something truly was, while the run goes by. */
function truthOf(truth: AlarmTruth, { markers }: Recording) {
  const was: TrueEvent[] =
    truth.kind === 'marks'
      ? markers.filter((m) => m.text === truth.text).map((m) => ({ fromS: m.timeS, toS: m.timeS }))
      : [];
  let openS: number | null = null;
  return {
    event(channelId: string, { watchId, what, counted, timeS, endS }: WatchedEvent) {
      if (truth.kind !== 'watch' || channelId !== truth.channelId || watchId !== truth.watchId) return;
      openS = what === 'start' && counted ? timeS : null;
      if (what === 'event' && counted) was.push({ fromS: timeS, toS: Math.max(timeS, endS) });
    },
    /** What had not ended when the run did lasts to its end. */
    end: (toS: number): TrueEvent[] => (openS === null ? was : [...was, { fromS: openS, toS }]),
  };
}

/** Where other levels are tried: over what is asked; null for rules that have none. */
function rangeOf(gadget: Gadget, rule: AlarmRule): readonly [number, number] | null {
  if (rule.kind !== 'high' && rule.kind !== 'low') return null;
  const channel = gadget.channels.find((c) => c.id === rule.channelId)!;
  const figure = channel.figures?.find((f) => f.id === rule.figureId);
  const brief = figure ? figureBrief(gadget, channel, figure) : briefFor(gadget, channel);
  const range = brief && rangeIn(brief, rule.unit);
  return range ? [range.low, range.high] : null;
}
