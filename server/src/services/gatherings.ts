import { calibratedLine, createGathering, type Gathering } from '@lucky-needle/core/calibrate';
import { compileLine, lanesOf, runLine } from '@lucky-needle/core/line';
import type {
  Calibration,
  Channel,
  Evidence,
  GatheringBody,
  GatheringKind,
  GatheringNow,
  LineSpec,
  ReferenceInput,
  TakeBody,
} from '@lucky-needle/core/model';
import { referenceValue } from '@lucky-needle/core/references';
import { stretchStatistics } from '@lucky-needle/core/reading';
import { printNominal } from '@lucky-needle/core/units';
import type { LiveBench } from '../capture/liveBench.ts';
import { notFound, ProblemError } from '../http/problem.ts';
import type { Bench } from './bench.ts';
import { heardNow } from './heardNow.ts';

/** How often what came is taken in, ms: the live bench looks back further than that at any speed. */
const PULL_MS = 500;
/** A rest is the newest so long, s. */
const REST_S = 3;
/** Of what gravity pulls, a rest may move by so much. */
const STILL = 1 / 50;
/** Filters of a line come to rest within so long, s. */
const RUN_IN_S = 20;
/** A course that wanders by more is not held still, degrees. */
const SWINGS_DEG = 3;
/** Rows of alternating current that are looked at: some seconds of a fast link. */
const STRETCH = 12_000;
/** Columns that a kind wants. */
const WANTS: Readonly<Record<GatheringKind, number>> = { cloud: 3, drag: 2 };

interface Held {
  readonly gadgetId: string;
  readonly columns: readonly string[];
  readonly gathering: Gathering;
  isOn: boolean;
}

const NOTHING: GatheringNow = { isOn: false, rows: 0, seconds: 0, cloud: [], sums: [] };

/** What guided true-ups gather from the live rows, on the server: a page may be left meanwhile. */
export function gatheringService(bench: Bench) {
  const { tables, links } = bench;
  const held = new Map<string, Held>();
  let timer: NodeJS.Timeout | null = null;

  async function channelOf(gadgetId: string, channelId: string): Promise<Channel> {
    const gadget = await tables.gadgets.find(gadgetId);
    if (!gadget) throw notFound('gadget', gadgetId);
    const channel = gadget.channels.find((c) => c.id === channelId);
    if (!channel) throw notFound('channel', channelId);
    return channel;
  }

  function liveOf(gadgetId: string): LiveBench {
    const live = heardNow(bench, gadgetId);
    if (typeof live === 'string')
      throw refuse(live, 'Set up a link on the Link page, or connect the gadget.');
    return live;
  }

  function pull({ gadgetId, columns, gathering, isOn }: Held): void {
    const live = links.of(gadgetId)?.live;
    if (!isOn || !live) return;
    live.run();
    const places = columns.map((c) => live.columns.indexOf(c));
    if (places.includes(-1)) return;
    const { times, columns: all } = live.raw.since(gathering.newestS);
    gathering.take(
      times,
      places.map((k) => all[k]!),
    );
  }

  const pullAll = () => {
    for (const one of held.values()) pull(one);
    if (timer && ![...held.values()].some((h) => h.isOn)) {
      clearInterval(timer);
      timer = null;
    }
  };

  const keyOf = (gadgetId: string, channelId: string, kind: GatheringKind) =>
    `${gadgetId} ${channelId} ${kind}`;

  function now(gadgetId: string, channelId: string, kind: GatheringKind): GatheringNow {
    const one = held.get(keyOf(gadgetId, channelId, kind));
    if (!one) return NOTHING;
    pull(one);
    const { rows, seconds, cloud, sums } = one.gathering.gathered;
    return {
      isOn: one.isOn,
      rows,
      seconds,
      cloud: kind === 'cloud' ? cloud.map(([x, y, z]) => [x!, y!, z!]) : [],
      sums: kind === 'drag' ? [...sums] : [],
    };
  }

  return {
    async look(gadgetId: string, channelId: string, kind: GatheringKind): Promise<GatheringNow> {
      await channelOf(gadgetId, channelId);
      return now(gadgetId, channelId, kind);
    },

    async act(gadgetId: string, { channelId, kind, act }: GatheringBody): Promise<GatheringNow> {
      const channel = await channelOf(gadgetId, channelId);
      const key = keyOf(gadgetId, channelId, kind);
      const one = held.get(key);
      if (act === 'forget') held.delete(key);
      else if (act === 'stop') {
        if (one) {
          pull(one);
          one.isOn = false;
        }
      } else {
        const live = liveOf(gadgetId);
        const columns = channel.line.sources.slice(0, WANTS[kind]).map((s) => s.column);
        if (columns.length < WANTS[kind])
          throw refuse(
            `${channel.name} does not have ${WANTS[kind]} raw columns.`,
            'Choose another channel.',
          );
        if (one) one.gathering.goOn(live.newestS);
        const gathering = one?.gathering ?? createGathering(columns.length, live.newestS);
        held.set(key, { gadgetId, columns, gathering, isOn: true });
        timer ??= setInterval(pullAll, PULL_MS).unref();
      }
      return now(gadgetId, channelId, kind);
    },

    /** What was gathered of a gadget that is thrown away; put back, it begins anew. */
    forget(gadgetId: string): void {
      for (const [key, one] of held) if (one.gadgetId === gadgetId) held.delete(key);
    },

    /** Evidence from the newest seconds of what was heard; not stored. @throws {ProblemError} where it means nothing */
    async take(gadgetId: string, { channelId, taking }: TakeBody): Promise<{ evidence: Evidence }> {
      const channel = await channelOf(gadgetId, channelId);
      const live = liveOf(gadgetId);
      const calibrations = await tables.calibrations.list(gadgetId);
      const columns = channel.line.sources.map((s) => {
        const at = live.columns.indexOf(s.column);
        if (at < 0) throw refuse(`There is no column "${s.column}".`, 'Check the link on the Link page.');
        return at;
      });
      if (taking.kind === 'rest') return { evidence: restOf(live, columns) };
      if (taking.kind === 'bearing')
        return { evidence: bearingOf(live, columns, unturned(channel, calibrations), taking.reference) };
      const newest = live.raw.newest(STRETCH);
      const [voltage, current] = columns.map((k) => Array.from(newest.columns[k]!));
      if (!voltage || !current || voltage.length < 20)
        throw refuse('Not enough readings yet.', 'Wait a few seconds.');
      return { evidence: { ...taking, voltage, current } };
    },
  };
}

const refuse = (detail: string, wayOut: string) =>
  new ProblemError(422, 'cannot-gather', 'Not captured', detail, wayOut, 'channelId');

/** The line as it is trued up, but turned as it was bought: versions would else be counted twice. */
function unturned(channel: Channel, calibrations: readonly Calibration[]): LineSpec {
  const { line } = calibratedLine(channel.line, channel.id, calibrations);
  const before = channel.line.stages.find((s) => s.kind === 'heading')?.params['mountingDeg'] ?? 0;
  return {
    ...line,
    stages: line.stages.map((s) =>
      s.kind === 'heading' ? { ...s, params: { ...s.params, mountingDeg: before } } : s,
    ),
  };
}

/** Mean course while it points along a known one and is held still. */
function bearingOf(
  live: LiveBench,
  columns: readonly number[],
  spec: LineSpec,
  reference: ReferenceInput,
): Evidence {
  const worth = truthOf(reference);
  const { times, columns: all } = live.raw.since(live.newestS - RUN_IN_S);
  const line = compileLine(spec, { sampleRateHz: live.sampleRateHz ?? 1 });
  const [end] = runLine(
    line,
    lanesOf(
      times,
      columns.map((k) => all[k]!),
    ),
  );
  const from = end!.times.findIndex((t) => t > live.newestS - REST_S);
  const course = stretchStatistics(end!.times.subarray(from), end!.lanes[0]!.values.subarray(from), true);
  if (from < 0 || !course) throw refuse('Not enough headings yet.', 'Wait a few seconds.');
  if (course.sd >= SWINGS_DEG)
    throw refuse(
      `The heading varies by ${printNominal(course.sd, 2)}°.`,
      'Hold the sensor still along the bearing. If it is still, nearby iron may be cancelling the field: correct for that first by rotating the sensor.',
    );
  return {
    kind: 'bearing',
    title: worth.title,
    shownDeg: course.mean,
    uShownDeg: course.u,
    referenceDeg: worth.value,
    uncertaintyDeg: worth.uncertainty,
  };
}

function truthOf(reference: ReferenceInput) {
  try {
    return referenceValue(reference, 'deg');
  } catch (error) {
    if (error instanceof RangeError) throw refuse(error.message, 'Correct the reference.');
    throw error;
  }
}

/** Mean of three axes that stand still. */
function restOf(live: LiveBench, columns: readonly number[]): Evidence {
  const { times, columns: all } = live.raw.since(live.newestS - REST_S);
  const axes = columns.slice(0, 3).map((k) => stretchStatistics(times, all[k]!));
  if (axes.length < 3 || axes.includes(null))
    throw refuse(
      'All three axes need a few seconds of readings.',
      'Wait, or check the link on the Link page.',
    );
  const found = axes.map((a) => a!);
  const largest = Math.max(...found.map((a) => Math.abs(a.mean)), 1);
  const moves = Math.max(...found.map((a) => a.sd));
  if (moves >= STILL * largest)
    throw refuse(
      `The sensor is moving: the readings vary by ${printNominal(moves, 2)} of ${printNominal(largest, 4)} counts.`,
      'Put it down and let go.',
    );
  return {
    kind: 'rest',
    raw: found.map((a) => a.mean) as [number, number, number],
    u: Math.max(...found.map((a) => a.u), 1e-3),
  };
}
