import {
  createWatches,
  edgesOf,
  WatchError,
  type WatchedEvent,
  type Watches,
  type WatchesMemory,
} from '../detect/index.ts';
import {
  budgetWith,
  createFigures,
  type FigureError,
  type FigureReading,
  type Figures,
  type FiguresMemory,
  type ReadingBudget,
  type SensorShare,
} from '../figures/index.ts';
import { filterTotals, givesDirection, LineError, type LineMemory } from '../line/index.ts';
import { lowerBound } from '../numerics/index.ts';
import type { FigureSpec, WatchSpec } from '../model/watch.ts';
import type { UnitId } from '../units/index.ts';
import {
  createReadout,
  type Readout,
  type ReadoutChannel,
  type ReadoutSpec,
  type TakeStages,
} from './readout.ts';
import { KeptPiece } from './keptPiece.ts';
import type { RawRows } from './rawLanes.ts';
import { budgetAt, type BudgetTable } from './budgetTable.ts';
import { createShadow, type Shadow, type ShadowMemory, type ShadowSpec } from './shadow.ts';

/** What counts on a channel, and what is made of it. */
export interface ChannelWatch {
  readonly watches: readonly WatchSpec[];
  readonly figures: readonly FigureSpec[];
  /** What constants and noise make of readings; null where nothing is known of it. */
  readonly budget: BudgetTable | null;
  /** The same of other channels that figures need, by channel. */
  readonly otherBudgets: Readonly<Record<string, BudgetTable | null>>;
  /** What the picked sensor is good to by itself; null where nobody says. */
  readonly sensor: SensorShare | null;
  readonly otherSensors: Readonly<Record<string, SensorShare | null>>;
  /** Standard uncertainty of the gadget's clock as a share; null when not known. */
  readonly clockShare: number | null;
  /** Whether the reading is an angle round the circle. */
  readonly isDirection: boolean;
}

export interface WatchedChannel extends ReadoutChannel {
  readonly watch?: ChannelWatch | undefined;
  /** Where no table tells what readings are worth: how the readings themselves tell it. */
  readonly shadow?: ShadowSpec | null | undefined;
}

export interface WatchedSpec extends Omit<ReadoutSpec, 'channels'> {
  readonly channels: readonly WatchedChannel[];
}

export interface WatchMemory {
  readonly watches: WatchesMemory;
  readonly figures: FiguresMemory;
  /** Newest readings of other channels. */
  readonly newest: Readonly<Record<string, number>>;
  readonly shadow: ShadowMemory | null;
}

/** A readout with detectors and figures behind its readings. */
export interface WatchedReadout {
  readonly readout: Readout;
  /**
   * Why what counts on a channel cannot work, in their order; null where it does or there is nothing. Of a figure that
   * cannot be made, the rest works all the same.
   */
  readonly problems: readonly (WatchError | FigureError | null)[];
  /** As a readout is fed; events are told as they become certain, by channel. */
  feed(rows: RawRows, take: TakeStages, seen: (channel: number, event: WatchedEvent) => void): void;
  /**
   * The same for rows that came before the readout was made: what readings are worth is told of the newest of them only,
   * since each way that a constant may be off costs as much as the line itself.
   */
  prime(rows: RawRows, take: TakeStages, seen: (channel: number, event: WatchedEvent) => void): void;
  /** A button of the bench. @throws {WatchError} when there is none of that name */
  press(channel: number, watchId: string, timeS: number, seen: (event: WatchedEvent) => void): void;
  /** Begins the figures of a channel anew. */
  reset(channel: number, timeS: number): void;
  /** Begins the figures of a channel for its next trial: one that is measured from where the last one ended keeps that. */
  nextTrial(channel: number, timeS: number): void;
  figures(channel: number): FigureReading[];
  /** Standard uncertainties of the newest reading of a channel with a shadow; null where there is none, or no reading yet. */
  worth(channel: number): ReadingBudget | null;
  /** Goes on with a channel's line from what it remembered. @throws {RangeError} when it is another line's */
  restoreLine(channel: number, saved: LineMemory): void;
  /** What detectors and figures of a channel remember; null where there are none. */
  saveWatch(channel: number): WatchMemory | null;
  restoreWatch(channel: number, saved: WatchMemory): void;
}

/** So long before the newest row of those that a readout is primed with it begins to be told what readings are worth, s. */
const WORTH_S = 5;

/** Rows that are run at once, so that events of one channel never wait for those of another for long. */
const PIECE = 4096;

interface AtWork {
  readonly channel: number;
  readonly watches: Watches;
  readonly figures: Figures;
  /** Places of the raw columns that are looked at. */
  readonly columns: readonly (readonly [name: string, at: number])[];
  /** Places of other channels whose readings are needed. */
  readonly others: readonly (readonly [id: string, at: number])[];
  readonly newest: Record<string, number>;
  tell: (event: WatchedEvent) => void;
}

export function createWatchedReadout(spec: WatchedSpec): WatchedReadout {
  const readout = createReadout(spec);
  const problems: (WatchError | FigureError | null)[] = spec.channels.map(() => null);
  const shadows = spec.channels.map((channel, k) => shadowOf(spec, readout, channel, k));
  const atWork = spec.channels.flatMap((channel, k): AtWork[] => {
    if (!channel.watch) return [];
    try {
      const work = workOf(spec, readout, shadows, k);
      problems[k] = work.figures.problems.find((problem) => problem !== null) ?? null;
      return [work];
    } catch (error) {
      if (!(error instanceof WatchError)) throw error;
      problems[k] = error;
      return [];
    }
  });
  const shadowed = shadows.flatMap((shadow, channel) => (shadow ? [{ shadow, channel }] : []));
  const wanted = new Set([
    ...atWork.flatMap((w) => [w.channel, ...w.others.map(([, at]) => at)]),
    ...shadowed.map((s) => s.channel),
  ]);
  const kept = new Map([...wanted].map((k) => [k, new KeptPiece()]));
  let isShading = true;
  const of = (channel: number) => atWork.find((w) => w.channel === channel);

  function feedPiece(rows: RawRows, take: TakeStages, seen: (channel: number, event: WatchedEvent) => void) {
    for (const piece of kept.values()) piece.clear();
    readout.feed(rows, (k, stages) => {
      take(k, stages);
      kept.get(k)?.add(stages.at(-1)!);
    });
    for (const { shadow, channel } of isShading ? shadowed : []) {
      shadow.feed(rows);
      if (!of(channel)) shade(channel, rows);
    }
    for (const work of atWork) run(work, rows, seen);
  }

  /** Raw values of a channel's sources at the last row up to a time, as times go on. */
  function rawUpTo(channel: number, rows: RawRows): (timeS: number) => number[] | null {
    const sources = readout.lines[channel]!.line!.sources.map((s) => spec.columns.indexOf(s.name));
    let next = 0;
    return (timeS) => {
      while (next < rows.length && rows.times[next]! <= timeS) next++;
      return next === 0 ? null : sources.map((at) => rows.columns[at]![next - 1]!);
    };
  }

  /** What the readings of a channel are worth on which nothing counts. */
  function shade(channel: number, rows: RawRows): void {
    const { length, times, values } = kept.get(channel)!;
    const rawAt = rawUpTo(channel, rows);
    for (let i = 0; i < length; i++) shadows[channel]!.reading(times[i]!, values[i]!, () => rawAt(times[i]!));
  }

  /** Readings, raw rows and readings of other channels in order of time; of one moment the own reading comes last. */
  function run(work: AtWork, rows: RawRows, seen: (channel: number, event: WatchedEvent) => void): void {
    work.tell = (event) => seen(work.channel, event);
    const { watches, figures, columns, others, newest } = work;
    const own = kept.get(work.channel)!;
    const theirs = others.map(([id, at]) => ({ id, piece: kept.get(at)!, next: 0 }));
    let row = 0;
    const upTo = (timeS: number) => {
      if (columns.length > 0)
        for (; row < rows.length && rows.times[row]! <= timeS; row++)
          for (const [name, at] of columns) watches.raw(name, rows.times[row]!, rows.columns[at]![row]!);
      for (const other of theirs)
        for (; other.next < other.piece.length && other.piece.times[other.next]! <= timeS; other.next++)
          newest[other.id] = other.piece.values[other.next]!;
    };
    const looksAside = columns.length > 0 || theirs.length > 0;
    const newestOf = (id: string) => newest[id] ?? Number.NaN;
    const shadow = shadows[work.channel];
    const rawAt = shadow && rawUpTo(work.channel, rows);
    const { length, times, values } = own;
    for (let i = 0; i < length; i++) {
      // Of readings that nothing comes of, the last one tells as much as all of them.
      if (!looksAside && !shadow && !figures.looksAtReadings)
        i = Math.max(i, watches.quietUntil(values, i, length) - 1);
      const timeS = times[i]!;
      if (looksAside) upTo(timeS);
      if (isShading) shadow?.reading(timeS, values[i]!, () => rawAt!(timeS));
      watches.reading(timeS, values[i]!);
      figures.reading(timeS, values[i]!, newestOf);
    }
    upTo(Number.POSITIVE_INFINITY);
  }

  function feed(rows: RawRows, take: TakeStages, seen: (channel: number, event: WatchedEvent) => void) {
    if (wanted.size === 0) return readout.feed(rows, take);
    for (let from = 0; from < rows.length; from += PIECE)
      feedPiece(part(rows, from, Math.min(rows.length, from + PIECE)), take, seen);
  }

  return {
    readout,
    problems,
    feed,
    prime(rows, take, seen) {
      const from = shadowed.length > 0 ? lowerBound(rows.times, rows.times[rows.length - 1]! - WORTH_S) : 0;
      isShading = false;
      feed(part(rows, 0, from), take, seen);
      isShading = true;
      for (const { shadow, channel } of from > 0 ? shadowed : [])
        shadow.restoreLine(readout.saveChannel(channel)!);
      feed(part(rows, from, rows.length), take, seen);
    },
    press(channel, watchId, timeS, seen) {
      const work = of(channel);
      if (!work) throw new WatchError(watchId, 'This channel has no such button.');
      work.tell = seen;
      work.watches.press(watchId, timeS);
    },
    reset: (channel, timeS) => of(channel)?.figures.reset(timeS),
    nextTrial: (channel, timeS) => of(channel)?.figures.next(timeS),
    figures: (channel) => of(channel)?.figures.now() ?? [],
    worth: (channel) => shadows[channel]?.newest() ?? null,
    restoreLine(channel, saved) {
      readout.restoreChannel(channel, saved);
      shadows[channel]?.restoreLine(saved);
    },
    saveWatch(channel) {
      const work = of(channel);
      return work
        ? {
            watches: work.watches.save(),
            figures: work.figures.save(),
            newest: { ...work.newest },
            shadow: shadows[channel]?.save() ?? null,
          }
        : null;
    },
    restoreWatch(channel, saved) {
      const work = of(channel);
      if (!work) return;
      work.watches.restore(saved.watches);
      work.figures.restore(saved.figures);
      Object.assign(work.newest, saved.newest);
      if (saved.shadow) shadows[channel]?.restore(saved.shadow);
    },
  };
}

/** A moved line that cannot run beside its own leaves readings of which nothing is known. */
function shadowOf(spec: WatchedSpec, readout: Readout, channel: WatchedChannel, k: number): Shadow | null {
  const { line } = readout.lines[k]!;
  if (!channel.shadow || !line) return null;
  try {
    return createShadow(spec, channel, line, channel.shadow, givesDirection(line.spec));
  } catch (error) {
    if (!(error instanceof LineError)) throw error;
    return null;
  }
}

function workOf(spec: WatchedSpec, readout: Readout, shadows: readonly (Shadow | null)[], k: number): AtWork {
  const {
    watches: watched,
    figures: made,
    budget,
    otherBudgets,
    sensor,
    otherSensors,
    clockShare,
    isDirection,
  } = spec.channels[k]!.watch!;
  const { line } = readout.lines[k]!;
  if (!line) throw new WatchError('', 'The line of this channel has an error. Fix it first.');
  const unit = line.outputs[0]!.unit;
  const sampleRateHz = line.outputRateHz;
  const shadow = shadows[k];
  const at = shadow ? (value: number) => shadow.at(value) : budgetAt(budget);
  const work = { tell: () => undefined } as unknown as AtWork;
  const ownBudget = budgetWith(at, sensor);
  const context = {
    sampleRateHz,
    lagS: filterTotals(line).delayS,
    // Asked for with every reading, at the few levels of watches: a table says always the same of them.
    noiseAt: shadow ? (value: number) => ownBudget(value).noise : once((value) => ownBudget(value).noise),
  };
  const watches = createWatches(watched, context, (event) => {
    work.figures.event(event);
    work.tell(event);
  });
  const columns = watches.columns.map((name) => {
    const place = spec.columns.indexOf(name);
    if (place < 0) {
      const { id, name: title } = watched.find((w) => w.column === name)!;
      throw new WatchError(
        id,
        `“${title}” uses the raw column “${name}”, which does not exist. Available columns: ${spec.columns.join(', ') || 'none'}. Choose another.`,
      );
    }
    return [name, place] as const;
  });
  const placeOf = (id: string) => spec.channels.findIndex((c) => c.id === id);
  const figures = createFigures(
    made,
    watched.map((w) => w.id),
    {
      unit,
      sampleRateHz,
      isDirection,
      meansOfSteps: line.stages.findLast((s) => s.kind.comes)?.kind.meansOfSteps ?? false,
      budget: ownBudget,
      clockShare: clockShare ?? Number.NaN,
      budgetOf: (id) => {
        const other = shadows[placeOf(id)];
        const ofLine = other ? (value: number) => other.at(value) : budgetAt(otherBudgets[id] ?? null);
        return budgetWith(ofLine, otherSensors[id] ?? null);
      },
      edgesOf: (id) => edgesOf(watched.find((w) => w.id === id)!),
      unitOf: (id): UnitId | null => readout.lines[placeOf(id)]?.line?.outputs[0]!.unit ?? null,
    },
  );
  const others = [...new Set(made.flatMap((f) => f.others))]
    .map((id) => [id, placeOf(id)] as const)
    .filter(([, place]) => place >= 0);
  return Object.assign(work, { channel: k, watches, figures, columns, others, newest: {} });
}

const part = (rows: RawRows, from: number, to: number): RawRows => ({
  length: to - from,
  times: rows.times.subarray(from, to),
  columns: rows.columns.map((c) => c.subarray(from, to)),
});

/** The same function that works each out but once. */
function once(of: (value: number) => number): (value: number) => number {
  const known = new Map<number, number>();
  return (value) => {
    const before = known.get(value);
    if (before !== undefined) return before;
    const now = of(value);
    known.set(value, now);
    return now;
  };
}
