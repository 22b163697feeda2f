import { randomUUID } from 'node:crypto';
import type { Job } from '@lucky-needle/core/model';
import { ProblemError, notFound } from '../http/problem.ts';

const KEPT = 50;

/** What a job is given to tell how far it is; throws once the job is cancelled. */
export interface JobControl {
  /** @throws {Cancelled} */
  told(progress: number, note: string): void;
  /** Aborted once the job is cancelled: what may hang listens to it. */
  readonly signal: AbortSignal;
}

class Cancelled extends Error {}

type KeptJob = Job & { readonly control: AbortController; ended: Promise<void> };

/** Long work that goes on after its request was answered. Kept in memory: a restart ends it, and cleans up after it. */
export class Jobs {
  private readonly jobs = new Map<string, KeptJob>();

  /** @param work returns the id of what it made; cleans up by itself when it throws */
  start(title: string, work: (control: JobControl) => Promise<string | null>): Job {
    const control = new AbortController();
    const job: KeptJob = {
      id: randomUUID(),
      title,
      state: 'running',
      progress: 0,
      note: '',
      result: null,
      problem: null,
      control,
      ended: Promise.resolve(),
    };
    this.jobs.set(job.id, job);
    for (const [id, old] of this.jobs)
      if (this.jobs.size > KEPT && old.state !== 'running') this.jobs.delete(id);
    job.ended = work({
      told: (progress, note) => {
        if (control.signal.aborted) throw new Cancelled();
        Object.assign(job, { progress: Math.min(1, Math.max(0, progress)), note });
      },
      signal: control.signal,
    }).then(
      (result) => void Object.assign(job, { state: 'done', progress: 1, result }),
      (error: unknown) => {
        if (error instanceof Cancelled || control.signal.aborted) return void (job.state = 'cancelled');
        job.state = 'failed';
        job.problem =
          error instanceof ProblemError
            ? { detail: error.problem.detail, wayOut: error.problem.wayOut }
            : {
                detail: (error as Error).message,
                wayOut: 'Try again. Details are in the server log.',
              };
      },
    );
    return this.find(job.id);
  }

  find(id: string): Job {
    const job = this.jobs.get(id);
    if (!job) throw notFound('job', id);
    const { control: _c, ended: _e, ...shown } = job;
    return shown;
  }

  cancel(id: string): Job {
    this.find(id);
    this.jobs.get(id)!.control.abort();
    return this.find(id);
  }

  /** Waits until a job has ended, however. */
  async ended(id: string): Promise<Job> {
    await this.jobs.get(id)?.ended;
    return this.find(id);
  }

  async close(): Promise<void> {
    for (const job of this.jobs.values()) job.control.abort();
    await Promise.all([...this.jobs.values()].map((j) => j.ended));
  }
}
