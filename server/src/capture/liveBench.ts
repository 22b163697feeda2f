import type { ReadingsPart } from '@lucky-needle/core/formats';
import type { WatchedEvent } from '@lucky-needle/core/detect';
import { givesDirection } from '@lucky-needle/core/line';
import type { FigureReading } from '@lucky-needle/core/figures';
import {
  createWatchedReadout,
  History,
  stretchStatistics,
  type Readout,
  type StretchStatistics,
  type WatchedReadout,
  type WatchedSpec,
} from '@lucky-needle/core/reading';
import { LiveAlarms } from './liveAlarms.ts';
import type { LineStart } from '../readings/readingStarts.ts';

/** How long raw rows are kept, to look back at and to prime a new line with, s; and how many at the most. */
const RAW_S = 120;
const MOST_RAW = 300_000;
/** Readings after a stage on the way: a minute of them is drawn. */
const STAGE_S = 70;
const MOST_OF_STAGE = 160_000;
/** Readings at the end: a comparison of five minutes wants them all, and begins some time after the first. */
const READING_S = 900;
const MOST_READINGS = 700_000;
/** Events that are kept of each channel, for a page that has just come. */
const MOST_EVENTS = 500;
/** Rows that are run at once; a burst of more is run as it comes. */
const PIECE = 4096;

interface Place {
  readonly channelId: string;
  readonly stage: number;
  readonly history: History;
  /** Of its readings, how many the pages have been told. */
  told: number;
}

export interface Newest {
  readonly timeS: number;
  readonly value: number;
  readonly reason: number;
}

let setUpsOfAll = 0;

/**
 * The readings of one linked gadget, worked out as its rows come in, whether a page looks or not. What a page, the API and
 * an alarm are told is taken from here.
 */
export class LiveBench {
  /** The set-up that is in use, unlike any other: what was told of one before no longer holds. */
  setUps = 0;
  readonly columns: readonly string[];
  readonly raw: History;
  readonly alarms = new LiveAlarms({
    lineOf: (channelId) => this.lineOf(channelId),
    figures: (channelId) => this.watched?.figures(this.placeOf(channelId)) ?? [],
  });
  private spec: WatchedSpec | null = null;
  private watched: WatchedReadout | null = null;
  /** By channel: events that were seen, oldest first, and how many of them the pages have been told. */
  private events: { seen: WatchedEvent[]; total: number; told: number }[] = [];
  /** By channel, then by stage; raw itself is not kept again. */
  private places: Place[][] = [];
  private times = new Float64Array(PIECE);
  private rows: Float64Array[];
  private waiting = 0;
  private toldRaw = 0;

  constructor(columns: readonly string[]) {
    this.columns = columns;
    this.raw = new History(RAW_S, MOST_RAW, columns.length);
    this.rows = columns.map(() => new Float64Array(PIECE));
  }

  get sampleRateHz(): number | null {
    return this.spec?.sampleRateHz ?? null;
  }

  /** Why channels cannot run, in their order; null for those that do. */
  get problems(): (string | null)[] {
    return this.readout?.lines.map((line) => line.problem?.message ?? null) ?? [];
  }

  private get readout(): Readout | null {
    return this.watched?.readout ?? null;
  }

  get channels(): WatchedSpec['channels'] {
    return this.spec?.channels ?? [];
  }

  /** Starts lines anew and runs them over the newest rows, so that they stand where they would had they always run. */
  setUp(spec: WatchedSpec): void {
    this.run();
    const { spec: before, watched: old, events: seen } = this;
    this.spec = spec;
    this.watched = createWatchedReadout(spec);
    this.events = spec.channels.map(() => ({ seen: [], total: 0, told: 0 }));
    this.places = this.watched.readout.lines.map(({ id, line }) => {
      const stages = line?.stages.length ?? 0;
      return Array.from({ length: stages }, (_, k) => ({
        channelId: id,
        stage: k + 1,
        history:
          k + 1 === stages
            ? new History(READING_S, MOST_READINGS, 2)
            : new History(STAGE_S, MOST_OF_STAGE, 2),
        told: 0,
      }));
    });
    this.setUps = ++setUpsOfAll;
    const times = this.raw.times.slice();
    const columns = this.columns.map((_, k) => this.raw.column(k).slice());
    this.feed(times, columns, times.length, 'prime');
    // What is counted the same way as before goes on where it stood: the newest rows alone would begin anew.
    spec.channels.forEach((channel, k) => {
      const was = before?.channels.findIndex((c) => isAlike(c, channel)) ?? -1;
      const memory = was < 0 ? null : old!.saveWatch(was);
      if (!memory) return;
      this.watched!.restoreWatch(k, memory);
      this.events[k] = { ...seen[was]!, told: 0 };
    });
  }

  /** What every line remembers now, after all rows so far. */
  starts(): LineStart[] {
    this.run();
    const { spec, readout } = this;
    if (!spec || !readout) return [];
    return spec.channels.flatMap((channel, k) => {
      const memory = readout.saveChannel(k);
      return memory ? [{ channel, sampleRateHz: spec.sampleRateHz, memory }] : [];
    });
  }

  append(timeS: number, values: readonly number[]): void {
    this.times[this.waiting] = timeS;
    for (let k = 0; k < this.rows.length; k++) this.rows[k]![this.waiting] = values[k] ?? Number.NaN;
    if (++this.waiting === PIECE) this.run();
  }

  /** Runs what waits. */
  run(): void {
    const count = this.waiting;
    if (count === 0) return;
    this.waiting = 0;
    this.raw.add(this.times, this.rows, count);
    this.feed(
      this.times.subarray(0, count),
      this.rows.map((row) => row.subarray(0, count)),
      count,
    );
  }

  /** Rows that the pages have not been told yet. */
  takeRaw(): { readonly times: Float64Array; readonly columns: readonly Float64Array[] } | null {
    const fresh = this.raw.total - this.toldRaw;
    this.toldRaw = this.raw.total;
    return fresh > 0 ? this.raw.newest(fresh) : null;
  }

  /** Readings that the pages have not been told yet. */
  takeReadings(): ReadingsPart[] {
    return this.places.flat().flatMap((place) => {
      const fresh = place.history.total - place.told;
      place.told = place.history.total;
      return fresh > 0 ? [partOf(place, place.history.newest(fresh))] : [];
    });
  }

  /** All that is known of the last seconds, for a page that has just come. */
  recent(seconds: number, readingSeconds: number): ReadingsPart[] {
    const newestS = this.raw.newestS;
    return this.places.flatMap((stages) =>
      stages.flatMap((place) => {
        const wanted = place.stage === stages.length ? readingSeconds : seconds;
        const kept = place.history.since(newestS - wanted);
        // A reading that comes seldom may lie further back.
        const shown = kept.times.length > 0 ? kept : place.history.newest(1);
        return shown.times.length > 0 ? [partOf(place, shown)] : [];
      }),
    );
  }

  /** The newest reading of a channel; null before the first. */
  newest(channelId: string): Newest | null {
    this.run();
    const history = this.historyOf(channelId);
    if (!history || history.length === 0) return null;
    const at = history.length - 1;
    return {
      timeS: history.times[at]!,
      value: history.column(0)[at]!,
      reason: history.column(1)[at]!,
    };
  }

  /** The newest readings of a channel, so many at the most, good until the next come; null where it cannot run. */
  newestReadings(channelId: string, most: number): Omit<ReadingsPart, 'channelId' | 'stage'> | null {
    this.run();
    const history = this.historyOf(channelId);
    if (!history) return null;
    const { times, columns } = history.newest(most);
    return { times, values: columns[0]!, reasons: columns[1]! };
  }

  /** The gadget's clock at its newest row; NaN before the first. */
  get newestS(): number {
    return this.raw.newestS;
  }

  /** The newest raw values of a channel's sources; empty before the first row. */
  newestRaw(channelId: string): number[] {
    const at = this.raw.length - 1;
    const line = this.lineOf(channelId);
    if (at < 0 || !line) return [];
    return line.sources.map((s) => this.raw.column(this.columns.indexOf(s.name))[at]!);
  }

  /** The line that a channel is run with, compiled; null when it cannot run. */
  lineOf(channelId: string) {
    return this.readout?.lines.find((l) => l.id === channelId)?.line ?? null;
  }

  /** Why nothing can be counted on a channel; null when it can, or nothing is. */
  watchProblem(channelId: string): string | null {
    return this.watched?.problems[this.placeOf(channelId)]?.message ?? null;
  }

  /** What is made of a channel's readings, as it stands now. */
  figures(channelId: string): FigureReading[] {
    this.run();
    const at = this.placeOf(channelId);
    return at < 0 ? [] : this.watched!.figures(at);
  }

  /** Standard uncertainty of the newest reading of a channel whose readings tell it themselves; null for all others. */
  worth(channelId: string): number | null {
    this.run();
    const worth = this.watched?.worth(this.placeOf(channelId));
    const u = worth ? Math.hypot(worth.systematic, worth.noise) : Number.NaN;
    return Number.isFinite(u) ? u : null;
  }

  /** The newest events of a channel, oldest first. */
  recentEvents(channelId: string): readonly WatchedEvent[] {
    return this.events[this.placeOf(channelId)]?.seen.slice(-MOST_EVENTS) ?? [];
  }

  /** Events that the pages have not been told yet. */
  takeEvents(channelId: string): readonly WatchedEvent[] {
    const kept = this.events[this.placeOf(channelId)];
    if (!kept) return [];
    const fresh = Math.min(kept.total - kept.told, kept.seen.length, MOST_EVENTS);
    kept.told = kept.total;
    return fresh > 0 ? kept.seen.slice(-fresh) : [];
  }

  /** No page looks: what was not told will come with all that is known. */
  pass(): void {
    this.toldRaw = this.raw.total;
    for (const place of this.places.flat()) place.told = place.history.total;
    for (const kept of this.events) kept.told = kept.total;
  }

  /** A button of the bench was pressed. @param agoS since the newest row came @throws {WatchError} when there is none */
  press(channelId: string, watchId: string, agoS: number): number {
    this.run();
    const at = this.placeOf(channelId);
    const timeS = (Number.isFinite(this.raw.newestS) ? this.raw.newestS : 0) + agoS;
    this.watched?.press(at, watchId, timeS, (event) => this.keep(at, event));
    return timeS;
  }

  /** Begins the figures of a channel anew. */
  reset(channelId: string): void {
    this.run();
    const at = this.placeOf(channelId);
    if (at >= 0) this.watched!.reset(at, this.raw.newestS);
  }

  /** What the readings of a stretch come to; null with fewer than three good ones. */
  stretch(
    channelId: string,
    fromS: number,
    toS: number,
  ): { readonly statistics: StretchStatistics | null; readonly knownFromS: number | null } {
    this.run();
    const history = this.historyOf(channelId);
    if (!history || history.length === 0) return { statistics: null, knownFromS: null };
    const line = this.lineOf(channelId);
    const knownFromS = history.times[0]!;
    const { times, columns } = history.since(fromS);
    let end = times.length;
    while (end > 0 && times[end - 1]! > toS) end--;
    return {
      statistics: stretchStatistics(
        times.subarray(0, end),
        columns[0]!.subarray(0, end),
        line !== null && givesDirection(line.spec),
      ),
      knownFromS,
    };
  }

  private historyOf(channelId: string): History | null {
    return this.places.find((stages) => stages[0]?.channelId === channelId)?.at(-1)?.history ?? null;
  }

  private feed(
    times: Float64Array,
    columns: readonly Float64Array[],
    length: number,
    how: 'feed' | 'prime' = 'feed',
  ): void {
    this.watched?.[how](
      { length, times, columns },
      (channel, stages) => {
        const { id } = this.spec!.channels[channel]!;
        const end = stages.at(-1)!;
        // What is run once more to prime a line has been told of before.
        if (how === 'feed')
          this.alarms.readings(id, end.times, end.lanes[0]!.values, end.lanes[0]!.reasons, end.length);
        for (const place of this.places[channel]!) {
          const block = stages[place.stage]!;
          const lane = block.lanes[0]!;
          place.history.add(block.times, [lane.values, lane.reasons], block.length);
        }
      },
      (channel, event) => {
        this.keep(channel, event);
        if (how === 'feed') this.alarms.figuresOf(this.spec!.channels[channel]!.id, event.endS);
      },
    );
    if (how === 'feed' && length > 0) this.alarms.allFigures(times[length - 1]!);
  }

  private keep(channel: number, event: WatchedEvent): void {
    const kept = this.events[channel]!;
    kept.seen.push(event);
    kept.total++;
    if (kept.seen.length > 2 * MOST_EVENTS) kept.seen = kept.seen.slice(-MOST_EVENTS);
  }

  private placeOf(channelId: string): number {
    return this.spec?.channels.findIndex((c) => c.id === channelId) ?? -1;
  }
}

/** Whether two channels count the same: what they remember then means the same. */
const isAlike = (a: WatchedSpec['channels'][number], b: WatchedSpec['channels'][number]): boolean =>
  a.id === b.id &&
  JSON.stringify([a.line, a.watch?.watches, a.watch?.figures]) ===
    JSON.stringify([b.line, b.watch?.watches, b.watch?.figures]);

function partOf(
  place: Place,
  { times, columns }: { readonly times: Float64Array; readonly columns: readonly Float64Array[] },
): ReadingsPart {
  return {
    channelId: place.channelId,
    stage: place.stage,
    times,
    values: columns[0]!,
    reasons: columns[1]!,
  };
}
