import type { Knex } from 'knex';
import type { Recording, RowIssue } from '@lucky-needle/core/model';
import type { Tables } from '../db/tables.ts';
import { databaseProblem, ProblemError } from '../http/problem.ts';
import { ChunkWriter } from '../recordings/chunkWriter.ts';
import { sharedCommits } from '../recordings/sharedCommits.ts';

/** How often the samples that came in are committed. */
const COMMIT_MS = 500;
/** Samples held in memory while the disk refuses them; past that, readings are counted as lost. */
const MAX_WAITING = 4_000_000;
const MAX_ISSUES = 200;

/** Writes one live recording: commits twice a second, keeps what cannot be written and tries again. */
export class Recorder {
  recording: Recording;
  /** What hinders writing just now, in words; null when all is well. */
  problem: string | null = null;
  private readonly writer: ChunkWriter;
  private readonly tables: Tables;
  private timer: NodeJS.Timeout;
  private readonly misplaced: () => string | null;
  /** By a clock that only runs forwards: the time of day may be set meanwhile. */
  private readonly startedAtMs = performance.now();
  private committing: Promise<void> = Promise.resolve();
  private firstTimeS: number | null = null;
  private previousTimeS: number | null = null;
  private readonly issues: RowIssue[] = [];
  /** What came since it is being stopped: behind the end, or in its place again if it cannot be closed. */
  private held: { readonly timeS: number; readonly values: readonly number[] }[] | null = null;
  private received = 0;
  private lost = 0;

  /** @param misplaced why the database is not where it should be; null when it is */
  constructor(knex: Knex, tables: Tables, recording: Recording, misplaced: () => string | null = () => null) {
    this.recording = recording;
    this.tables = tables;
    this.misplaced = misplaced;
    const write = sharedCommits(knex);
    this.writer = new ChunkWriter(knex, recording.id, recording.columns.length, (commit) =>
      write({
        chunks: () => commit.chunks(),
        standing: {
          id: this.recording.id,
          total: commit.total,
          lastTimeS: commit.lastTimeS,
          lost: this.lost,
          issues: JSON.stringify(this.issues),
        },
      }),
    );
    // All of them at the same beat, so that they go to the disk together.
    this.timer = setTimeout(
      () => {
        void this.commit();
        this.timer = setInterval(() => void this.commit(), COMMIT_MS);
      },
      COMMIT_MS - (performance.now() % COMMIT_MS),
    );
  }

  /** Time of the newest reading; null before the first. */
  get newestS(): number | null {
    return this.previousTimeS;
  }

  /** From the first reading to the newest, by the gadget's own clock, s. */
  get lengthS(): number {
    return (this.previousTimeS ?? 0) - (this.firstTimeS ?? 0);
  }

  get committed(): number {
    return this.writer.committed;
  }

  get waiting(): number {
    return this.writer.waiting;
  }

  private get endedAt(): string {
    const lengthMs = performance.now() - this.startedAtMs;
    return new Date(Date.parse(this.recording.startedAt) + lengthMs).toISOString();
  }

  /** Takes one reading; a jump in the board's time is a marked gap, never filled in. */
  append(timeS: number, values: readonly number[]): void {
    if (this.writer.waiting + (this.held?.length ?? 0) >= MAX_WAITING) {
      this.lost++;
      return;
    }
    if (this.held) {
      this.held.push({ timeS, values: [...values] });
      return;
    }
    if (this.previousTimeS !== null) {
      const step = timeS - this.previousTimeS;
      const period = 1 / this.recording.sampleRateHz;
      if (step > 2.5 * period) {
        this.lost += Math.max(0, Math.round(step / period) - 1);
        this.remark('gap', `No readings for ${step.toFixed(1)} s before ${timeS.toFixed(1)} s.`);
      } else if (step <= 0) {
        this.remark(
          'time-backwards',
          `The board’s clock jumped back from ${this.previousTimeS} s to ${timeS} s.`,
        );
      }
    }
    this.firstTimeS ??= timeS;
    this.previousTimeS = timeS;
    this.received++;
    this.writer.append(timeS, values);
  }

  remark(code: string, text: string): void {
    if (this.issues.length < MAX_ISSUES) this.issues.push({ code, row: this.received, text });
  }

  /** Commits what waits. A refusal is remembered as the problem; nothing is dropped. */
  commit(): Promise<void> {
    this.committing = this.committing.then(() => this.commitNow());
    return this.committing;
  }

  private async commitNow(): Promise<void> {
    try {
      await this.writer.commit();
      this.problem = this.misplaced();
    } catch (error) {
      const known = databaseProblem(error);
      const { waiting: count } = this.writer;
      const waiting = count === 1 ? '1 reading is waiting' : `${count} readings are waiting`;
      this.problem =
        known instanceof ProblemError
          ? `${known.problem.detail} ${known.problem.wayOut} ${waiting} in memory.`
          : `Could not write: ${(error as Error).message}. ${waiting} in memory.`;
    }
  }

  /**
   * Commits what came until now and closes the recording; what comes meanwhile is not in it.
   * @throws {ProblemError} when the rest cannot be written; the recording then goes on, without a gap
   */
  async stop(): Promise<Recording> {
    this.held ??= [];
    try {
      return await this.close();
    } catch (error) {
      const held = this.held ?? [];
      this.held = null;
      for (const { timeS, values } of held) this.append(timeS, values);
      throw error;
    }
  }

  private async close(): Promise<Recording> {
    await this.commit();
    if (this.problem !== null) {
      throw new ProblemError(
        503,
        'not-stopped',
        'Not stopped yet',
        `Cannot stop the run. ${this.problem}`,
        'Fix this, then stop again. Recording continues in the meantime.',
      );
    }
    const stored = await this.tables.recordings.find(this.recording.id);
    const closed: Recording = { ...stored!, state: 'closed', endedAt: this.endedAt };
    try {
      await this.tables.recordings.update(closed);
    } catch (error) {
      throw databaseProblem(error);
    }
    clearInterval(this.timer);
    return closed;
  }

  /** Lets go without closing, as when the server ends: the next start closes the recording. */
  async abandon(): Promise<void> {
    clearInterval(this.timer);
    await this.commit();
  }
}
