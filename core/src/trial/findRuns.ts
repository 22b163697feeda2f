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

const BOUND = /(\bover|\babove|\bunder|\bbelow|>|<)\s*([-−]?\d+(?:[.,]\d+)?)/giu;

/**
 * Runs and trials by what is written of them: every word must be there, in the run's name, note, marks or date, or in a trial's
 * label, note or reason. "peak over 1200" wants a trial whose figure of such a name is above that, in the unit that it is told in.
 */
export function findRuns(asked: string, runs: readonly RunText[], trials: readonly Trial[]): FoundRuns {
  const names = [...new Set(trials.flatMap((t) => t.figures.map((f) => f.name)))];
  const bounds: Bound[] = [];
  let problem: string | null = null;
  const words: string[] = [];
  let read = 0;
  for (const { 0: all, 1: way, 2: number, index } of asked.matchAll(BOUND)) {
    const before = wordsOf(asked.slice(read, index));
    read = index + all.length;
    // A figure's name has no digits; its last words name it, as many of them as there is a figure for.
    const begin = before.findLastIndex((w) => /[\d<>]/u.test(w)) + 1;
    const said = before.slice(begin);
    const from = said.findIndex((_, k) => names.some((n) => has(n, said.slice(k).join(' '))));
    words.push(...before.slice(0, begin + Math.max(0, from)));
    if (from < 0) problem ??= `No trial has a result called “${said.join(' ') || '?'}”.`;
    else
      bounds.push({
        figure: said.slice(from).join(' '),
        isOver: ['over', 'above', '>'].includes(way!.toLowerCase()),
        value: Number(number!.replace('−', '-').replace(',', '.')),
      });
  }
  words.push(...wordsOf(asked.slice(read)));
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

const wordsOf = (text: string) => text.split(/\s+/u).filter((w) => w !== '');

const has = (text: string, part: string) => text.toLowerCase().includes(part.toLowerCase());

const isWithin = ({ figures }: Trial, { figure, isOver, value }: Bound) =>
  figures.some(
    (f) => f.value !== null && has(f.name, figure) && (isOver ? f.value > value : f.value < value),
  );
