import { inverse, Matrix } from 'ml-matrix';
import type { Evidence } from '../model/evidence.ts';

/** What each of several channels answers to each of their quantities. */
export interface CrossAnswers {
  readonly channelIds: readonly string[];
  /** By channel, then by quantity: what it reads for each unit that is there; NaN where nobody exposed it, nor typed it. */
  readonly answers: readonly (readonly number[])[];
  /** Standard uncertainties of those. */
  readonly u: readonly (readonly number[])[];
  /** By channel, then by reading: what to sum for the quantity itself; null while an answer is missing, or they cannot be told apart. */
  readonly weights: readonly (readonly number[])[] | null;
  readonly doubts: readonly (readonly number[])[] | null;
  /** What keeps the weights from being worked out; empty when nothing does. */
  readonly problem: string;
}

export type Exposure = Extract<Evidence, { kind: 'exposure' }>;

/** An answer that somebody typed, such as from a part's paper. */
export interface TypedAnswer {
  readonly on: string;
  readonly to: string;
  readonly answer: number;
  /** Standard uncertainty. */
  readonly u: number;
}

/** The weights must not blow up what readings are uncertain by more than this. */
const MOST_BLOWN_UP = 10;

/**
 * Answers from exposures one at a time, the newest of each quantity, and the weights that take the others' share off: the
 * inverse of the matrix of answers, with uncertainties of first order, dM = -M dA M (JCGM 100:2008, 5.1.2).
 *
 * A channel's answer to its own quantity is 1: it is trued up before. Where a channel does not rise above what it reads in
 * clean air, its answer is 0, and not more than would just be seen: u is that over root three.
 */
export function crossAnswers(
  channelIds: readonly string[],
  exposures: readonly Exposure[],
  typed: readonly TypedAnswer[] = [],
): CrossAnswers {
  const cells = channelIds.map((on) =>
    channelIds.map((to) => {
      if (on === to) return { answer: 1, u: 0 };
      const said = typed.findLast((t) => t.on === on && t.to === to);
      if (said) return said;
      const exposure = exposures.findLast((e) => e.of === to);
      const read = exposure?.readings.find((r) => r.channelId === on);
      return exposure && read ? answerOf(exposure, read) : { answer: Number.NaN, u: Number.NaN };
    }),
  );
  const answers = cells.map((row) => row.map((c) => c.answer));
  const u = cells.map((row) => row.map((c) => c.u));
  const none = { channelIds, answers, u, weights: null, doubts: null };
  const missing = channelIds.filter((_, j) => answers.some((row) => Number.isNaN(row[j]!)));
  if (missing.length > 0) return { ...none, problem: 'missing' };
  const weights = inverted(answers);
  if (!weights || Math.max(...weights.map((row) => Math.hypot(...row))) > MOST_BLOWN_UP)
    return { ...none, problem: 'alike' };
  const doubts = weights.map((row) =>
    row.map((_, j) =>
      Math.hypot(...u.flatMap((of, k) => of.map((own, l) => row[k]! * own * weights[l]![j]!))),
    ),
  );
  return { channelIds, answers, u, weights, doubts, problem: '' };
}

/** Null where the rows cannot be told apart. */
function inverted(rows: readonly (readonly number[])[]): number[][] | null {
  try {
    return inverse(new Matrix(rows.map((row) => [...row]))).to2DArray();
  } catch {
    return null;
  }
}

function answerOf({ dose, uncertainty }: Exposure, { mean, u, clean }: Exposure['readings'][number]) {
  // What is no more than its clean air hides whatever it answers.
  if (clean !== null && mean <= clean + 2 * u) return { answer: 0, u: clean / dose / Math.sqrt(3) };
  const answer = mean / dose;
  return { answer, u: Math.hypot(u / dose, (answer * (uncertainty / 2)) / dose) };
}
