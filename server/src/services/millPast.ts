import { existsSync } from 'node:fs';
import { readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { columnsOf, happenedIn, linesOf, MILL_PAST, type MillPast, type PastRun } from '@lucky-needle/demo';
import type { Gadget, Recording, Trial } from '@lucky-needle/core/model';
import type { Bench } from './bench.ts';
import type { Services } from './services.ts';

const DAY_MS = 86_400_000;

/** Gadgets whose past is not in yet; goes on at the next start when the server ends meanwhile. */
const leftOf = ({ dataDir }: Bench) => join(dataDir, 'mill-past-to-come.json');

/** Notes down that these gadgets of the mill have a past to come. */
export async function owePast(bench: Bench, gadgetIds: readonly string[]): Promise<void> {
  const before = await stillOwed(bench);
  await writeFile(leftOf(bench), JSON.stringify([...before, ...gadgetIds]));
}

async function stillOwed(bench: Bench): Promise<string[]> {
  if (!existsSync(leftOf(bench))) return [];
  const read: unknown = JSON.parse(await readFile(leftOf(bench), 'utf8').catch(() => '[]'));
  return Array.isArray(read) ? read.filter((id) => typeof id === 'string') : [];
}

/**
 * Weeks of the mill's gadgets, brought in behind the bench while it works already: gadget by gadget and run by run, through
 * the recorder and the rules that serve everyone.
 */
export class MillPastJob {
  private isStopped = false;
  private working: Promise<void> | null = null;
  private readonly bench: Bench;
  private readonly services: Services;
  private readonly failed: (error: unknown) => void;

  /** @param failed told of what went wrong with a gadget; the others are brought in all the same */
  constructor(bench: Bench, services: Services, failed: (error: unknown) => void) {
    this.bench = bench;
    this.services = services;
    this.failed = failed;
  }

  /** Begins with what is owed, if it has not begun. */
  wake(): void {
    this.working ??= this.work()
      .catch(this.failed)
      .finally(() => (this.working = null));
  }

  /** Ends after the run that is being written; the next start goes on with the gadgets that are left. */
  async stop(): Promise<void> {
    this.isStopped = true;
    await this.working;
  }

  private async work(): Promise<void> {
    const { bench } = this;
    for (let owed = await stillOwed(bench); owed.length > 0; owed = await stillOwed(bench)) {
      const gadget = await bench.tables.gadgets.find(owed[0]!);
      const past = gadget && MILL_PAST.find((p) => p.template === gadget.template);
      try {
        if (gadget && past) await pastOfGadget(bench, this.services, gadget, past, () => this.isStopped);
      } catch (error) {
        // Such as a gadget that was deleted meanwhile.
        this.failed(error);
      }
      if (this.isStopped) return;
      // The mill may have been let in once more meanwhile.
      const rest = (await stillOwed(bench)).filter((id) => id !== owed[0]);
      if (rest.length > 0) await writeFile(leftOf(bench), JSON.stringify(rest));
      else await rm(leftOf(bench), { force: true });
    }
  }
}

/** Past runs begin on the morning of their day, whenever the mill is let in: those of one day never lie on two. */
const MORNING_H = 10;

/** When a past run began. */
export function beganAt({ daysAgo, minutes }: Pick<PastRun, 'daysAgo' | 'minutes'>, nowMs: number): string {
  const at = new Date(nowMs - daysAgo * DAY_MS);
  at.setHours(MORNING_H, minutes, 0, 0);
  return at.toISOString();
}

async function pastOfGadget(
  bench: Bench,
  { recordings, trials }: Services,
  gadget: Gadget,
  past: MillPast,
  isStopped: () => boolean,
): Promise<void> {
  const nowMs = Date.parse(bench.now());
  // Of a start that was cut off some are there already, and one perhaps by half.
  const names = new Set(past.runs.map((r) => r.name));
  for (const run of await bench.tables.recordings.list(gadget.id, 500, 0))
    if (names.has(run.name)) await bench.tables.recordings.remove(run.id);
  const made: Recording[] = [];
  for (const [k, run] of past.runs.entries()) {
    if (isStopped()) return;
    const at = beganAt(run, nowMs);
    const stored = await recordings.storeBoardText(
      gadget.id,
      run.name,
      at,
      columnsOf(past.template),
      linesOf(past.template, run, k),
    );
    // As live, where a simulated world says what it was made to do.
    for (const { timeS, text } of happenedIn(past.template, run))
      await bench.tables.recordings.addMarker(stored.id, { timeS, text, isTruth: true });
    made.push(stored);
  }
  if (past.rule) await trials.setRule(gadget.id, past.rule);
  const found = await trialsOf(trials, gadget.id, isStopped);
  for (const [k, run] of past.runs.entries()) {
    const own = found.filter((t) => t.recordingId === made[k]!.id);
    for (const trial of own) if (!isStopped()) await say(trials, trial, run);
  }
}

/** All that was said of a trial: of each, and of it alone. */
async function say(trials: Services['trials'], trial: Trial, { said = [] }: PastRun): Promise<void> {
  const words = said.filter((w) => w.trial === undefined || w.trial === trial.number);
  if (words.length === 0) return;
  const { label = '', note = '', excluded = null } = Object.assign({}, ...words) as Partial<Trial>;
  const { recordingId, fromS, toS, saidAtS: replacesS } = trial;
  await trials.note(recordingId, { fromS, toS, replacesS, label, note, excluded });
}

async function trialsOf(
  trials: Services['trials'],
  gadgetId: string,
  isStopped: () => boolean,
): Promise<readonly Trial[]> {
  for (;;) {
    if (isStopped()) return [];
    const answer = await trials.look(gadgetId, null);
    if ('trials' in answer) return answer.trials;
  }
}
