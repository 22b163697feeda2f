import { createAlarms, inUnitOf } from '@lucky-needle/core/alarm';
import type { FaceFrame, Frames, FramesAnswer, Gadget, Recording, SeenEvent } from '@lucky-needle/core/model';
import { readoutSpec, seenEvent, shelfWith, wordOfReading } from '@lucky-needle/core/plan';
import { History } from '@lucky-needle/core/reading';
import { SPECTRUM_OF } from '@lucky-needle/core/face';
import { notFound } from '../http/problem.ts';
import { asRecorded, feedRecording, openRecordingReadout, type Moment } from '../readings/feedRecording.ts';
import type { Bench } from './bench.ts';
import { nowReading, type Heard } from './nowReading.ts';
import { Patience } from './patience.ts';
import { channelsBySpectrum, shownSpectra } from './shownSpectra.ts';

/** Events of a channel that are told. */
const MOST_EVENTS = 500;
/** Between two looks of alarms at figures, s, and so many at the most. */
const FIGURES_S = 0.5;
const MOST_LOOKS = 20_000;

/** Runs as the face would have shown them: the same engine, figures and alarms, looked at from moment to moment. */
export function faceFramesService(bench: Bench) {
  const { tables, knex } = bench;
  const patience = new Patience<Frames>();

  async function work(
    gadget: Gadget,
    recording: Recording,
    count: number,
    told: (share: number) => void,
  ): Promise<Frames> {
    const [calibrations, points, own] = await Promise.all([
      tables.calibrations.list(gadget.id),
      tables.points.list(gadget.id),
      tables.parts.list(),
    ]);
    const shelf = shelfWith(own.map((o) => o.part));
    const { channels } = readoutSpec(gadget, calibrations, shelf, recording.sampleRateHz);
    const read = asRecorded(recording, channels);
    const ids = gadget.channels.map((c) => c.id);
    const opened = await openRecordingReadout(knex, recording, read, ids);
    const { readout, needed } = opened;
    const placeOf = (channelId: string) => needed.findIndex((c) => c.id === channelId);
    const rules = gadget.alarms ?? [];
    const alarms = createAlarms(
      rules,
      (rule, value) => {
        const at = placeOf(rule.channelId);
        const unit =
          rule.figureId === null
            ? readout.readout.lines[at]?.line?.outputs[0]?.unit
            : readout.figures(at).find((f) => f.id === rule.figureId)?.unit;
        return inUnitOf(rule, unit ?? null, value);
      },
      () => undefined,
      (channelId, value, reason) =>
        wordOfReading(
          gadget.channels,
          channelId,
          readout.readout.lines[placeOf(channelId)]?.line ?? null,
          value,
          reason,
        ),
    );
    const watched = [...new Set(rules.filter((r) => r.figureId !== null).map((r) => r.channelId))];
    const figuresTo = (channelId: string, timeS: number) => {
      if (!watched.includes(channelId) || placeOf(channelId) < 0) return;
      for (const f of readout.figures(placeOf(channelId)))
        alarms.figure(channelId, f.id, timeS, f.value, f.atS, f.reason);
    };
    const newest = needed.map((): Heard['newest'] => null);
    const bySpectrum = channelsBySpectrum(gadget);
    const kept = needed.map(({ id }) => (bySpectrum.has(id) ? new History(Infinity, SPECTRUM_OF, 2) : null));
    const raw = needed.map((): number[] => []);
    const events = needed.map((): SeenEvent[] => []);
    const frames: FaceFrame[] = [];
    let rowS = recording.firstTimeS ?? 0;
    const look = (timeS: number) => {
      for (const id of watched) figuresTo(id, timeS);
      alarms.time(timeS, Math.max(0, timeS - rowS));
      frames.push({
        timeS,
        silent: null,
        alarms: alarms.now(timeS),
        spectra: shownSpectra(bySpectrum, (id) => {
          const history = kept[placeOf(id)];
          return history
            ? { times: history.times, values: history.column(0), reasons: history.column(1) }
            : null;
        }),
        channels: gadget.channels.map((channel) => {
          const k = placeOf(channel.id);
          const line = readout.readout.lines[k];
          const worth = k < 0 ? null : readout.worth(k);
          const u = worth ? Math.hypot(worth.systematic, worth.noise) : Number.NaN;
          const now = nowReading(
            gadget,
            channel,
            { calibrations, points, shelf },
            {
              line: line?.line ?? null,
              problem: line?.problem?.message ?? null,
              watchProblem: readout.problems[k]?.message ?? null,
              raw: raw[k] ?? [],
              newest: newest[k] ?? null,
              told: Number.isFinite(u) ? u : null,
              figures: k < 0 ? [] : readout.figures(k),
              silent: null,
            },
          );
          // The arithmetic in words would be most of what is sent.
          return { ...now, figures: now.figures.map((f) => ({ ...f, how: '' })) };
        }),
      });
    };
    const [firstS, lastS] = [recording.firstTimeS ?? 0, recording.lastTimeS ?? 0];
    const moments = Array.from({ length: count - 1 }, (_, k): Moment => {
      const timeS = firstS + ((k + 1) / count) * (lastS - firstS);
      return { timeS, act: () => look(timeS) };
    });
    // As live, where alarms are told of figures as they stand again and again.
    const everyS = Math.max(FIGURES_S, (lastS - firstS) / MOST_LOOKS);
    const looks = Array.from(
      { length: watched.length > 0 ? Math.floor((lastS - firstS) / everyS) : 0 },
      (_, k): Moment => {
        const timeS = firstS + (k + 1) * everyS;
        return { timeS, act: () => watched.forEach((id) => figuresTo(id, timeS)) };
      },
    );
    await feedRecording(
      knex,
      recording,
      opened,
      -Infinity,
      [...moments, ...looks],
      (channel, event) => {
        if (events[channel]!.length < MOST_EVENTS) events[channel]!.push(seenEvent(event));
        figuresTo(needed[channel]!.id, event.endS);
      },
      told,
      (channel, stages) => {
        const [first, end] = [stages[0]!, stages.at(-1)!];
        const { id } = needed[channel]!;
        const { values, reasons } = end.lanes[0]!;
        for (let i = 0; i < end.length; i++) alarms.reading(id, end.times[i]!, values[i]!, reasons[i]!);
        kept[channel]?.add(end.times, [values, reasons], end.length);
        const last = end.length - 1;
        if (last >= 0)
          newest[channel] = { timeS: end.times[last]!, value: values[last]!, reason: reasons[last]! };
        if (first.length > 0) {
          raw[channel] = first.lanes.map((lane) => lane.values[first.length - 1]!);
          rowS = Math.max(rowS, first.times[first.length - 1]!);
        }
      },
    );
    look(lastS);
    return { frames, events: needed.map(({ id }, k) => ({ channelId: id, events: events[k]! })) };
  }

  return {
    /** How the face stood at so many moments of a run, evenly over it; or how much of working it out is done. */
    async look(recordingId: string, count: number): Promise<FramesAnswer> {
      const recording = await tables.recordings.find(recordingId);
      if (!recording) throw notFound('recording', recordingId);
      const gadget = await tables.gadgets.find(recording.gadgetId);
      if (!gadget) throw notFound('gadget', recording.gadgetId);
      const key = JSON.stringify([
        recording.id,
        recording.pieces,
        recording.sampleCount,
        gadget.version,
        count,
      ]);
      const answer = await patience.ask(key, (told) => work(gadget, recording, count, told));
      return typeof answer === 'number' ? { share: answer } : answer;
    },
  };
}
