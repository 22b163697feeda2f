import { createWorld } from '@lucky-needle/core/simulate';
import { boardReader, lineSplitter } from '@lucky-needle/core/formats';
import type { Link, LinkStatus } from '@lucky-needle/core/model';
import type { StoredLink } from '../db/links.ts';
import type { Recorder } from './recorder.ts';
import { SimulatedBoard } from './simulatedBoard.ts';

/** Silence after which a link counts as lost. */
const LOST_AFTER_MS = 2000;
/** Readings are counted over this long for the achieved rate. */
const RATE_WINDOW_MS = 10_000;
/** Newest readings kept for a page that has just opened. */
const RECENT_SAMPLES = 6000;

export interface LiveReadings {
  readonly times: number[];
  /** One row of values a reading. */
  readonly rows: number[][];
}

/** One link: text in, readings out, with the counts that tell how healthy it is. */
export class LinkRunner {
  readonly stored: StoredLink;
  readonly columns: readonly string[];
  recorder: Recorder | null = null;
  private readonly board: SimulatedBoard;
  private readonly rateHz: number;
  private readonly read: (line: string) => ReturnType<ReturnType<typeof boardReader>>;
  private readonly arrivals: number[] = [];
  private recent: LiveReadings = { times: [], rows: [] };
  private fresh: LiveReadings = { times: [], rows: [] };
  /** When the rate began to be counted: at start, or when the pace of simulated time changed. */
  private startedAt = performance.now();
  private lastArrival = performance.now();
  private previousTimeS: number | null = null;
  private lost = 0;
  private badLines = 0;
  private lastBadLine: string | null = null;

  constructor(stored: StoredLink, rateHz: number) {
    this.stored = stored;
    this.rateHz = rateHz;
    this.columns = createWorld(stored.truth).columns;
    this.read = boardReader(this.columns);
    const split = lineSplitter((line) => this.takeLine(line));
    this.board = new SimulatedBoard(stored.truth, rateHz, stored.speed, split);
  }

  private takeLine(line: string): void {
    const reading = this.read(line);
    if (reading.kind === 'header') return;
    if (reading.kind === 'issue') {
      if (reading.code === 'empty') return;
      this.badLines++;
      this.lastBadLine = `${reading.code}: ${reading.text}`;
      this.recorder?.remark(reading.code, reading.text);
      return;
    }
    const now = performance.now();
    this.lastArrival = now;
    this.arrivals.push(now);
    if (this.previousTimeS !== null) {
      const missed = Math.round((reading.timeS - this.previousTimeS) * this.rateHz) - 1;
      if (missed > 0) this.lost += missed;
    }
    this.previousTimeS = reading.timeS;
    this.fresh.times.push(reading.timeS);
    this.fresh.rows.push(reading.values);
    this.recorder?.append(reading.timeS, reading.values);
  }

  /** Readings since the last call; they join the recent ones. */
  takeFresh(): LiveReadings {
    const fresh = this.fresh;
    this.fresh = { times: [], rows: [] };
    this.recent = {
      times: [...this.recent.times, ...fresh.times].slice(-RECENT_SAMPLES),
      rows: [...this.recent.rows, ...fresh.rows].slice(-RECENT_SAMPLES),
    };
    return fresh;
  }

  get recentReadings(): LiveReadings {
    return this.recent;
  }

  private get state(): LinkStatus['state'] {
    if (!this.board.plugged) return 'unplugged';
    return performance.now() - this.lastArrival > LOST_AFTER_MS ? 'lost' : 'up';
  }

  get link(): Link {
    const { stored, board } = this;
    return {
      id: stored.id,
      gadgetId: stored.gadgetId,
      kind: 'simulated',
      name: stored.name,
      state: this.state,
      speed: board.speed,
      conditions: board.world.conditions.map(({ id, title }) => ({ id, title })),
      condition: board.world.condition,
    };
  }

  get status(): LinkStatus {
    const now = performance.now();
    const kept = this.arrivals.findIndex((at) => now - at <= RATE_WINDOW_MS);
    this.arrivals.splice(0, kept < 0 ? this.arrivals.length : kept);
    const spanS = Math.min(RATE_WINDOW_MS, now - this.startedAt) / 1000;
    // In simulated time, so that a sped-up board is judged by what it would achieve on a bench.
    const achievedHz = spanS > 1 ? this.arrivals.length / spanS / this.board.speed : 0;
    return {
      linkId: this.stored.id,
      state: this.state,
      achievedHz: this.state === 'up' ? achievedHz : 0,
      lost: this.lost,
      badLines: this.badLines,
      lastBadLine: this.lastBadLine,
      condition: this.board.world.condition,
      speed: this.board.speed,
      instruments: this.board.instruments(),
      recording: this.recorder && {
        id: this.recorder.recording.id,
        committed: this.recorder.committed,
        waiting: this.recorder.waiting,
        problem: this.recorder.problem,
      },
    };
  }

  change(patch: { condition?: string; speed?: number; plugged?: boolean }): void {
    if (patch.condition !== undefined) this.board.world.setCondition(patch.condition);
    if (patch.speed !== undefined) {
      this.board.speed = patch.speed;
      this.arrivals.length = 0;
      this.startedAt = performance.now();
    }
    if (patch.plugged !== undefined) this.board.plugged = patch.plugged;
  }

  stop(): void {
    this.board.stop();
  }
}
