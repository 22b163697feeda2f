import type { Trial } from '../model/trial.ts';

/** A run as it is looked for: all that is written of it, with its date in words. */
export interface RunText {
  readonly id: string;
  readonly text: string;
}

export interface FoundRuns {
  readonly runIds: ReadonlySet<string>;
  /** Trials that match; of a run that matches without any of its trials, all of them. */
  readonly trialIds: ReadonlySet<string>;
  /** What was asked for and there is none of; null where all is understood. */
  readonly problem: string | null;
}

interface Bound {
  readonly figure: string;
  readonly isOver: boolean;
  readonly value: number;
}

const BOUND = /(^|\s)([^\d<>]*?)\s*(over|above|under|below|>|<)\s*([-−]?\d+(?:[.,]\d+)?)/giu;

/**
 * Runs and trials by what is written of them: every word must be there, in the run's name, note, marks or date, or in a trial's
 * label, note or reason. "peak over 1200" wants a trial whose figure of such a name is above that, in the unit that it is told in.
 */
export function findRuns(asked: string, runs: readonly RunText[], trials: readonly Trial[]): FoundRuns {
  const names = [...new Set(trials.flatMap((t) => t.figures.map((f) => f.name)))];
  const bounds: Bound[] = [];
  let problem: string | null = null;
  const rest = asked.replace(BOUND, (_all, _gap, before: string, way: string, number: string) => {
    const words = before.split(/\s+/u).filter((w) => w !== '');
    // The last words before it name the figure, as many of them as there is a figure for.
    const from = words.findIndex((_, k) => names.some((n) => has(n, words.slice(k).join(' '))));
    if (from < 0) problem ??= `No trial has a figure called “${words.join(' ') || '?'}”.`;
    else
      bounds.push({
        figure: words.slice(from).join(' '),
        isOver: ['over', 'above', '>'].includes(way.toLowerCase()),
        value: Number(number.replace('−', '-').replace(',', '.')),
      });
    return ` ${words.slice(0, Math.max(0, from)).join(' ')} `;
  });
  const words = rest.split(/\s+/u).filter((w) => w !== '');
  const runIds = new Set<string>();
  const trialIds = new Set<string>();
  if (problem === null)
    for (const run of runs) {
      const own = trials.filter((t) => t.recordingId === run.id);
      const good = own.filter(
        (t) =>
          words.every((w) => has(run.text, w) || has(`${t.label} ${t.note} ${t.excluded ?? ''}`, w)) &&
          bounds.every((b) => isWithin(t, b)),
      );
      const isWhole = bounds.length === 0 && words.every((w) => has(run.text, w));
      if (good.length === 0 && !isWhole) continue;
      runIds.add(run.id);
      for (const t of isWhole ? own : good) trialIds.add(t.id);
    }
  return { runIds, trialIds, problem };
}

const has = (text: string, part: string) => text.toLowerCase().includes(part.toLowerCase());

const isWithin = ({ figures }: Trial, { figure, isOver, value }: Bound) =>
  figures.some(
    (f) => f.value !== null && has(f.name, figure) && (isOver ? f.value > value : f.value < value),
  );
