import { beyond, detectorKind, type Detector } from '@lucky-needle/core/detect';
import { circularMeanOf } from '@lucky-needle/core/figures';
import { givesDirection } from '@lucky-needle/core/line';
import type {
  BetweenAnswer,
  BetweenBody,
  CompareAnswer,
  CompareBody,
  LookAnswer,
  LookBody,
  LookedAt,
  LookLine,
  PassesAnswer,
  PassesBody,
  Recording,
  RecordingReadings,
  StretchesAnswer,
  StretchesBody,
} from '@lucky-needle/core/model';
import { readoutChannel, shelfWith } from '@lucky-needle/core/plan';
import {
  CurveThinner,
  ReadingSummary,
  type Curve,
  type Reading,
  type ReadoutChannel,
} from '@lucky-needle/core/reading';
import { notFound } from '../http/problem.ts';
import type {
  Moment,
  ReadingsLook,
  RecordingReadings as Views,
  Stretch,
} from '../readings/recordingReadings.ts';
import { lineStarts } from '../readings/lineStarts.ts';
import type { Bench } from './bench.ts';
import { channelOf, runnable, stretchOf, unitOf } from './lookLines.ts';
import { Patience } from './patience.ts';
import { stretchesIn } from './stretchesIn.ts';

/** What is told of stretches, at the most: more bands than this are a wash of colour. */
const MOST_STRETCHES = 200;

/** Readings of recordings: drawn, measured, searched and compared. */
export function readingsService(bench: Bench, readings: Views) {
  const { tables } = bench;
  const patience = new Patience<LookedAt[]>();

  async function recordingOf(id: string): Promise<Recording> {
    const recording = await tables.recordings.find(id);
    if (!recording) throw notFound('recording', id);
    return recording;
  }

  async function lookAt(
    recording: Recording,
    lines: readonly LookLine[],
    stretch: Stretch | null,
    points: number,
    told: (share: number) => void,
  ): Promise<LookedAt[]> {
    const channels = lines.map(channelOf);
    await runnable(() => readings.prepare(recording, channels, told));
    const looks: LookedAt[] = [];
    for (const [k, channel] of channels.entries()) {
      const look = await runnable(() => readings.look(recording, channel, stretch, points));
      looks.push({ ...toldOf(look), id: lines[k]!.id, unit: unitOf(recording, channel) });
    }
    return looks;
  }

  return {
    /** The readings, or how much of working them out is done. */
    async look(id: string, body: LookBody): Promise<LookAnswer> {
      const recording = await recordingOf(id);
      const { lines, points } = body;
      const key = JSON.stringify([id, recording.sampleCount, body]);
      const looks = await patience.ask(key, (told) =>
        lookAt(recording, lines, stretchOf(recording, body), points, told),
      );
      return typeof looks === 'number' ? { share: looks } : { looks };
    },

    /** One channel of the recording's gadget, with its calibration in use; waits until it is there. */
    async channel(
      id: string,
      channelId: string,
      fromS: number | null,
      toS: number | null,
      points: number,
    ): Promise<RecordingReadings> {
      const recording = await recordingOf(id);
      const found = (await this.channelsOf(recording)).find((c) => c.channel.id === channelId);
      if (!found) throw notFound('channel', channelId);
      const line = { id: channelId, ...asked(found.readout) };
      const [look] = await lookAt(
        recording,
        [line],
        stretchOf(recording, { fromS, toS }),
        points,
        () => undefined,
      );
      return { ...look!, channelId, name: found.channel.name, sampleRateHz: recording.sampleRateHz };
    },

    /** Channels of a recording's gadget as they are read, with their calibrations in use. */
    async channelsOf(recording: Recording) {
      const gadget = await tables.gadgets.find(recording.gadgetId);
      if (!gadget) throw notFound('gadget', recording.gadgetId);
      const calibrations = await tables.calibrations.list(gadget.id);
      const parts = shelfWith((await tables.parts.list()).map((o) => o.part));
      return gadget.channels.map((channel) => {
        const readout = readoutChannel(gadget, channel, calibrations, parts);
        // What was brought in from a file says nothing of when it was switched on.
        return { channel, readout: recording.state === 'imported' ? { ...readout, warmUpS: 0 } : readout };
      });
    },

    /** What a line remembers where a recording begins; null where it begins afresh. */
    startOf: async (recording: Recording, readout: ReadoutChannel) =>
      (await lineStarts(bench.knex, recording, [readout]))[0] ?? null,

    async between(id: string, { lines, aS, bS }: BetweenBody): Promise<BetweenAnswer> {
      const recording = await recordingOf(id);
      const [fromS, toS] = aS <= bS ? [aS, bS] : [bS, aS];
      const answers = [];
      for (const line of lines) {
        const channel = channelOf(line);
        const answer = await runnable(async () => {
          const [first, last] = [
            await readings.at(recording, channel, fromS),
            await readings.at(recording, channel, toS),
          ];
          const { summary } = await readings.look(recording, channel, { fromS, toS }, 2);
          const [a, b] = aS <= bS ? [first, last] : [last, first];
          if (!givesDirection(channel.line))
            return { a: a.value, b: b.value, mean: meanBetween(fromS, first, toS, last, summary) };
          // A mean of angles goes round the circle; readings a moment apart are as good as weighted by time.
          const inside: number[] = [];
          await readings.each(recording, channel, { fromS, toS }, (_t, v) => {
            if (Number.isFinite(v)) inside.push(v);
          });
          return { a: a.value, b: b.value, mean: circularMeanOf(inside).mean };
        });
        answers.push({
          id: line.id,
          a: numberOrNull(answer.a),
          b: numberOrNull(answer.b),
          mean: numberOrNull(answer.mean),
        });
      }
      return { readings: answers };
    },

    async stretches(id: string, { line, untilDeg = null, ...body }: StretchesBody): Promise<StretchesAnswer> {
      const recording = await recordingOf(id);
      const answer: StretchesAnswer = { stretches: [], count: 0, togetherS: 0 };
      const take = (found: StretchesAnswer['stretches'][number]) => {
        answer.count++;
        answer.togetherS += found.endS - found.startS;
        if (answer.stretches.length < MOST_STRETCHES) answer.stretches.push(found);
      };
      const finder = untilDeg === null ? beyond(body, take) : inSector(body, untilDeg, recording, take);
      await runnable(() =>
        readings.each(recording, channelOf(line), stretchOf(recording, body), (t, v) => finder.push(t, v)),
      );
      finder.finish();
      return answer;
    },

    ...stretchesIn(readings, recordingOf),

    async compare(id: string, { first, second, points }: CompareBody): Promise<CompareAnswer> {
      const recording = await recordingOf(id);
      const looks = await lookAt(recording, [first, second], null, points, () => undefined);
      const [fromS, toS] = [recording.firstTimeS ?? 0, recording.lastTimeS ?? 0];
      const curve = new CurveThinner(fromS, toS, points);
      const summary = new ReadingSummary();
      let sum = 0;
      await runnable(() =>
        readings.pairs(recording, channelOf(first), channelOf(second), (timeS, a, b) => {
          curve.add(timeS, b - a);
          summary.add(timeS, b - a, Number.NaN, Number.NaN);
          if (!Number.isNaN(b - a)) sum += b - a;
        }),
      );
      const difference: ReadingsLook = { curve: curve.curve(), summary, thinned: curve.thinned, tally: [] };
      return {
        readings: looks,
        difference: { ...toldOf(difference), id: 'difference', unit: looks[0]!.unit },
        meanDifference: numberOrNull(sum / summary.good),
      };
    },

    async passes(id: string, { line, level }: PassesBody): Promise<PassesAnswer> {
      const recording = await recordingOf(id);
      let [beforeS, before] = [Number.NaN, Number.NaN];
      let found: number | null = null;
      await runnable(() =>
        readings.each(recording, channelOf(line), null, (timeS, value) => {
          if (found !== null) return;
          if ((before < level && value >= level) || (before > level && value <= level))
            found = beforeS + ((level - before) / (value - before)) * (timeS - beforeS);
          [beforeS, before] = [timeS, value];
        }),
      );
      return { timeS: found };
    },

    /** What was made of readings is made again; for when the recordings were put in place of others. */
    forgetAll: () => readings.forgetAll(),
  };
}

export type ReadingsService = ReturnType<typeof readingsService>;

const asked = ({ line, slowestHz, warmUpS }: ReadoutChannel) => ({
  line,
  slowestHz: slowestHz ?? null,
  warmUpS: warmUpS ?? 0,
});

const numberOrNull = (value: number): number | null => (Number.isFinite(value) ? value : null);

function toldOf({ curve, summary, thinned, tally }: ReadingsLook): Omit<LookedAt, 'id' | 'unit'> {
  return {
    ...numbersOf(curve),
    thinned,
    good: summary.good,
    bad: summary.bad,
    low: numberOrNull(summary.low),
    high: numberOrNull(summary.high),
    mean: numberOrNull(summary.mean),
    stages: tally.map(({ length, bad }) => ({ length, bad: { ...bad } })),
  };
}

const numbersOf = ({ times, values }: Curve) => ({
  times: Array.from(times, numberOrNull),
  values: Array.from(values, numberOrNull),
});

/** The mean from one moment to another: over the readings between them, and to the nearest of those on either side. */
function meanBetween(
  fromS: number,
  first: Moment,
  toS: number,
  last: Moment,
  inside: ReadingSummary,
): number {
  let { area, span } = inside;
  const add = (a: Reading, b: Reading) => {
    if (!Number.isFinite(a.value + b.value) || !(b.timeS > a.timeS)) return;
    area += ((a.value + b.value) / 2) * (b.timeS - a.timeS);
    span += b.timeS - a.timeS;
  };
  const [a, b] = [
    { timeS: fromS, value: first.value },
    { timeS: toS, value: last.value },
  ];
  // No reading between them: one straight line.
  if (first.after.timeS > toS) add(a, b);
  else {
    add(a, first.after);
    add(last.after.timeS === toS ? b : last.before, b);
  }
  return span > 0 ? area / span : Number.NaN;
}

/** Stretches in which a direction lies in a sector; one that still lasts at the end counts as well. */
function inSector(
  { level, comesBack }: Pick<StretchesBody, 'level' | 'comesBack'>,
  untilDeg: number,
  { sampleRateHz, lastTimeS }: Recording,
  take: (found: StretchesAnswer['stretches'][number]) => void,
): Detector {
  let openS: number | null = null;
  const tell = (startS: number, endS: number, at: number, cutShort: boolean) =>
    take({ startS, endS, extreme: at, extremeS: endS, cutShort });
  const params = { fromDeg: level, toDeg: untilDeg, hysteresisDeg: comesBack, shortestS: 0 };
  const run = detectorKind('sector')!.start(
    params,
    { sampleRateHz, noise: () => Number.NaN },
    ({ what, timeS, endS, at }) => {
      openS = what === 'start' ? timeS : null;
      if (what === 'event') tell(timeS, endS, at, false);
    },
  );
  return {
    push: (t, x) => (Number.isNaN(x) ? undefined : run.push(t, x)),
    finish: () => (openS === null ? undefined : tell(openS, lastTimeS ?? openS, level, true)),
  };
}
