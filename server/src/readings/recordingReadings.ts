import type { Knex } from 'knex';
import { givesDirection } from '@lucky-needle/core/line';
import { shortWay } from '@lucky-needle/core/numerics';
import type { Recording } from '@lucky-needle/core/model';
import {
  CurveThinner,
  drawOverview,
  ReadingSummary,
  type Curve,
  type Reading,
  type ReadoutChannel,
} from '@lucky-needle/core/reading';
import { walkSamples } from '../recordings/pieces.ts';
import type { Samples } from '../recordings/sampleStore.ts';
import { goAhead } from '../recordings/turns.ts';
import { ASIDE } from '../threads/aside.ts';
import { beginningOf, NOTHING } from './beginningOf.ts';
import type { ShortView } from './growView.ts';
import { growViews } from './growViews.ts';
import { pairedReadings } from './pairedReadings.ts';
import { SegmentRun, type ReadingVisitor } from './segmentRun.ts';
import type { Told } from './told.ts';
import { viewId } from './viewId.ts';
import { LEVELS, viewStore, type Cursor, type Level, type Tally } from './viewStore.ts';

/** Segments that are run again reading by reading for a look, at the most; a longer one takes their overviews. */
const MOST_RUN = 4;

export interface Stretch {
  readonly fromS: number;
  readonly toS: number;
}

export interface ReadingsLook {
  readonly curve: Curve;
  readonly summary: ReadingSummary;
  /** False where the curve holds every reading. */
  readonly thinned: boolean;
  readonly tally: Tally;
}

/** What is read at a moment, and the readings on either side of it; NaN where there is none. */
export interface Moment {
  readonly value: number;
  readonly before: Reading;
  readonly after: Reading;
}

/**
 * Readings of recordings, worked out by the readout once and kept as checkpoints and overviews: whatever is asked of a
 * moment, at any zoom, is what running the whole recording gives.
 */
export function recordingReadings(knex: Knex, now: () => number = Date.now, aside = ASIDE) {
  const store = viewStore(knex);
  const building = new Map<string, Promise<void>>();

  /** Brings views up to the end of their recording, those that stand at the same place by one reading of its samples. */
  async function completeAll(
    recording: Recording,
    channels: readonly ReadoutChannel[],
    told: Told,
  ): Promise<string[]> {
    const ids = channels.map((channel) => viewId(recording, channel));
    const wanted = new Map(ids.map((id, k) => [id, channels[k]!]));
    // One after the other: two that make the same would write over each other.
    const before = [...wanted.keys()].map((id) => building.get(id));
    const mine = Promise.allSettled(before).then(() => goAhead(() => extend(wanted, recording, told)));
    for (const id of wanted.keys()) building.set(id, mine);
    try {
      await mine;
    } finally {
      for (const id of wanted.keys()) if (building.get(id) === mine) building.delete(id);
    }
    return ids;
  }

  const complete = async (recording: Recording, channel: ReadoutChannel, told: Told): Promise<string> =>
    (await completeAll(recording, [channel], told))[0]!;

  async function extend(
    wanted: ReadonlyMap<string, ReadoutChannel>,
    recording: Recording,
    told: Told,
  ): Promise<void> {
    const short: ShortView[] = [];
    for (const [id, channel] of wanted) {
      if ((await store.state(id)) === 'complete') {
        await store.use(id, recording.id, now());
        continue;
      }
      const start = (await store.next(id)) ?? (await beginningOf(knex, recording, channel));
      short.push({ id, channel, seq: (await store.segments(id)).length, start });
    }
    if (short.length === 0) return;
    await growViews(knex, store, recording, short, now, told, aside);
    if (recording.state !== 'recording') await store.purge(recording.id);
  }

  /** Runs the readings from the last checkpoint before a moment, until the visitor has enough. */
  async function runFrom(
    recording: Recording,
    channel: ReadoutChannel,
    start: Cursor | null,
    toS: number,
    visit: ReadingVisitor & { enough?(): boolean },
    within: Stretch | null = null,
  ): Promise<SegmentRun> {
    const run = new SegmentRun(
      recording,
      channel,
      start ?? (await beginningOf(knex, recording, channel)),
      within,
    );
    for await (const { samples } of walkSamples(
      knex,
      recording,
      start?.at ?? { piece: 0, chunk: 0 },
      -Infinity,
      toS,
    )) {
      run.feed(samples, visit);
      if (visit.enough?.()) break;
    }
    return run;
  }

  return {
    /** Makes what several channels are looked at by, where it is not there yet: faster than one after the other. */
    async prepare(
      recording: Recording,
      channels: readonly ReadoutChannel[],
      told: Told = () => undefined,
    ): Promise<void> {
      await completeAll(recording, channels, told);
    },

    /** A stretch of readings: to draw, and what they come to. */
    async look(
      recording: Recording,
      channel: ReadoutChannel,
      stretch: Stretch | null,
      points: number,
      told: Told = () => undefined,
    ): Promise<ReadingsLook> {
      const id = await complete(recording, channel, told);
      const segments = await store.segments(id);
      const fromS = stretch?.fromS ?? recording.firstTimeS ?? 0;
      const toS = stretch?.toS ?? recording.lastTimeS ?? 0;
      const touching = segments.filter((s) => s.lastS >= fromS && s.firstS <= toS);
      const last = segments.at(-1);
      // Of what is still being recorded, the end is not kept yet.
      const tail = recording.state === 'recording' && (!last || toS > last.lastS);
      const isInside = (s: { firstS: number; lastS: number }) => s.firstS >= fromS && s.lastS <= toS;
      const few = touching.length <= MOST_RUN;
      const count = touching.reduce((n, s) => n + (s.tally.at(-1)?.length ?? 0), 0);
      const curve = new CurveThinner(fromS, toS, points);
      const summary = new ReadingSummary();
      const tallies: Tally[] = [];
      const visit: ReadingVisitor = {
        reading(timeS, value, beforeS, before) {
          if (timeS < fromS || timeS > toS) return;
          curve.add(timeS, value);
          summary.add(timeS, value, beforeS, beforeS >= fromS ? before : Number.NaN);
        },
        gap: (gap) => curve.gap(gap),
      };
      const level = levelFor(count, points);
      for (let k = 0; k < touching.length;) {
        const segment = touching[k]!;
        if (few || !isInside(segment)) {
          const run = await runSegment(id, segment.seq, visit);
          tallies.push(run.takeTally());
          k++;
          continue;
        }
        let end = k;
        while (end + 1 < touching.length && isInside(touching[end + 1]!)) end++;
        const wanted = [segment.seq, touching[end]!.seq] as const;
        for (const packed of await store.overviews(id, level, ...wanted)) {
          drawOverview(curve, packed);
          summary.addOverview(packed);
        }
        for (; k <= end; k++) tallies.push(touching[k]!.tally);
      }
      if (tail) {
        const next = await store.next(id);
        const run = await runFrom(recording, channel, next, toS, visit, { fromS, toS });
        tallies.push(run.takeTally());
      }
      return { curve: curve.curve(), summary, thinned: curve.thinned, tally: sumOf(tallies) };

      async function runSegment(view: string, seq: number, visitor: ReadingVisitor): Promise<SegmentRun> {
        const start = await store.start(view, seq);
        const run = new SegmentRun(recording, channel, start, { fromS, toS });
        const ends = segments[seq + 1] ? (await store.start(view, seq + 1)).at : null;
        for await (const { at, samples } of walkSamples(knex, recording, start.at)) {
          if (ends && at.piece === ends.piece && at.chunk === ends.chunk) break;
          run.feed(samples, visitor);
        }
        return run;
      }
    },

    /** Every reading of a stretch, in order; what a search or a comparison goes through. */
    async each(
      recording: Recording,
      channel: ReadoutChannel,
      stretch: Stretch | null,
      visit: (timeS: number, value: number) => void,
      told: Told = () => undefined,
    ): Promise<void> {
      const id = await complete(recording, channel, told);
      const segments = await store.segments(id);
      const fromS = stretch?.fromS ?? -Infinity;
      const toS = stretch?.toS ?? Infinity;
      const first = segments.findLast((s) => s.firstS <= fromS) ?? segments[0];
      const start = first ? await store.start(id, first.seq) : null;
      await runFrom(recording, channel, start, toS, {
        reading(timeS, value) {
          if (timeS >= fromS && timeS <= toS) visit(timeS, value);
        },
        gap: ({ toS: at }) => {
          if (at >= fromS && at <= toS) visit(at, Number.NaN);
        },
      });
    },

    /** What is read at a moment, on the straight line between the readings around it; NaN outside and beside a gap. */
    async at(recording: Recording, channel: ReadoutChannel, timeS: number): Promise<Moment> {
      const id = await complete(recording, channel, () => undefined);
      const segments = await store.segments(id);
      // The reading before it may lie a segment back, where readings come seldom.
      const first = segments.findLastIndex((s) => s.firstS <= timeS);
      const seq = Math.max(0, first - 1);
      const start = segments[seq] ? await store.start(id, seq) : null;
      const between = givesDirection(channel.line)
        ? (a: number, b: number, share: number) => (a + share * shortWay(a, b) + 360) % 360
        : (a: number, b: number, share: number) => a + share * (b - a);
      let found: Moment = { value: Number.NaN, before: NOTHING, after: NOTHING };
      let done = false;
      await runFrom(recording, channel, start, Infinity, {
        reading(afterS, after, beforeS, before) {
          if (done || afterS < timeS) return;
          done = true;
          const share = (timeS - beforeS) / (afterS - beforeS);
          found = {
            value: afterS === timeS ? after : between(before, after, share),
            before: { timeS: beforeS, value: before },
            after: { timeS: afterS, value: after },
          };
        },
        gap: ({ toS }) => {
          if (toS > timeS) done = true;
        },
        enough: () => done,
      });
      return found;
    },

    /** Readings of the same moments by two lines, in order. @param changed what the second is given of the samples */
    pairs: (
      recording: Recording,
      first: ReadoutChannel,
      second: ReadoutChannel,
      visit: (timeS: number, first: number, second: number) => void,
      changed?: (samples: Samples) => Samples,
    ): Promise<void> => pairedReadings(knex, recording, [first, second], visit, changed),

    /** Drops what was made of readings; it is made again when it is looked at. */
    forgetAll: () => store.removeAll(),
  };
}

export type RecordingReadings = ReturnType<typeof recordingReadings>;

/** A slot of the curve takes two buckets at least, or its lowest and highest would lie beside it. */
function levelFor(count: number, points: number): Level {
  const perSlot = (2 * count) / Math.max(2, points);
  return LEVELS.findLast((level) => perSlot >= 2 * level) ?? 64;
}

function sumOf(tallies: readonly Tally[]): Tally {
  const most = Math.max(0, ...tallies.map((t) => t.length));
  return Array.from({ length: most }, (_, k) => {
    const bad: Record<number, number> = {};
    let length = 0;
    for (const tally of tallies) {
      length += tally[k]?.length ?? 0;
      for (const [reason, count] of Object.entries(tally[k]?.bad ?? {}))
        bad[Number(reason)] = (bad[Number(reason)] ?? 0) + count;
    }
    return { length, bad };
  });
}
