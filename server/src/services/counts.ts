import type {
  Channel,
  ChannelCount,
  CountAnswer,
  CountBody,
  Gadget,
  Recording,
  RecordingFigures,
} from '@lucky-needle/core/model';
import { nowFigures, readoutSpec, seenEvent, shelfWith } from '@lucky-needle/core/plan';
import { notFound } from '../http/problem.ts';
import { recordingCounts } from '../readings/recordingCounts.ts';
import { asRecorded } from '../readings/feedRecording.ts';
import type { Bench } from './bench.ts';
import { Patience } from './patience.ts';

/** Answers that are kept, so that a page that comes back does not wait again. */
const MOST_KEPT = 40;

/** Events and figures of recordings. */
export function countsService(bench: Bench) {
  const { tables } = bench;
  const patience = new Patience<ChannelCount[]>();
  const kept = new Map<string, ChannelCount[]>();

  async function asked(id: string, draft: Channel | null) {
    const recording = await tables.recordings.find(id);
    if (!recording) throw notFound('recording', id);
    const stored = await tables.gadgets.find(recording.gadgetId);
    if (!stored) throw notFound('gadget', recording.gadgetId);
    const gadget = draft
      ? { ...stored, channels: stored.channels.map((c) => (c.id === draft.id ? draft : c)) }
      : stored;
    const calibrations = await tables.calibrations.list(gadget.id);
    const parts = shelfWith((await tables.parts.list()).map((o) => o.part));
    const { channels } = readoutSpec(gadget, calibrations, parts, recording.sampleRateHz);
    const read = asRecorded(recording, channels);
    return { recording, gadget, channels: read };
  }

  async function count(
    { recording, gadget, channels }: Awaited<ReturnType<typeof asked>>,
    told: (share: number) => void,
  ): Promise<ChannelCount[]> {
    const key = keyOf(recording, channels);
    const known = kept.get(key);
    if (known) return named(known, gadget);
    const counts = await recordingCounts(bench.knex, recording, channels, told);
    const answer = counts.map(({ channelId, problem, events, count: all, figures }): ChannelCount => {
      const channel = gadget.channels.find((c) => c.id === channelId)!;
      return {
        channelId,
        name: channel.name,
        problem,
        events: events.map(seenEvent),
        count: all,
        figures: nowFigures(gadget, channel, figures),
      };
    });
    if (recording.state !== 'recording') {
      kept.set(key, answer);
      if (kept.size > MOST_KEPT) kept.delete(kept.keys().next().value!);
    }
    return answer;
  }

  return {
    /** Counts by the gadget as it is stored, or with one of its channels tried otherwise. */
    async look(id: string, { draft }: CountBody): Promise<CountAnswer> {
      const question = await asked(id, draft);
      const answer = await patience.ask(keyOf(question.recording, question.channels), (told) =>
        count(question, told),
      );
      return typeof answer === 'number' ? { share: answer } : { channels: answer };
    },

    async events(id: string, channelId: string): Promise<Omit<ChannelCount, 'figures'>> {
      const found = (await count(await asked(id, null), () => undefined)).find(
        (c) => c.channelId === channelId,
      );
      if (!found) throw notFound('channel with events or results', channelId);
      const { figures: _figures, ...events } = found;
      return events;
    },

    async figures(id: string): Promise<RecordingFigures> {
      const counts = await count(await asked(id, null), () => undefined);
      return { channels: counts.map(({ events: _events, count: _count, ...channel }) => channel) };
    },
  };
}

export type CountsService = ReturnType<typeof countsService>;

const keyOf = (recording: Recording, channels: readonly unknown[]) =>
  JSON.stringify([recording.id, recording.sampleCount, recording.pieces, recording.markers, channels]);

/** Names of channels may have changed since. */
const named = (counts: readonly ChannelCount[], gadget: Gadget): ChannelCount[] =>
  counts.map((c) => ({ ...c, name: gadget.channels.find((g) => g.id === c.channelId)?.name ?? c.name }));
