import { compileLine } from '../../line/compile.ts';
import { readingAtRest } from '../../line/atRest.ts';
import { LineError } from '../../stage/contract.ts';
import type { LineEdit, LineSpec } from '../../model/line.ts';
import type { UnitId } from '../../units/index.ts';
import { factorSlips } from './byFactor.ts';
import { shiftSlips } from './byShift.ts';
import { slipsOfSeveral } from './bySeveral.ts';
import { slipsInLine } from './inLine.ts';
import { type FactorSlip, type Slip, type SlipObservation } from './slip.ts';
import { lowerFirst } from '../../words/index.ts';

export interface SlipExplanation {
  readonly ids: readonly string[];
  readonly title: string;
  /** What the first observation would read without the slip. */
  readonly corrected: number;
  /** Largest relative misfit left over all observations. */
  readonly misfit: number;
  /** The one step that would confirm it, and tell it from those alike. */
  readonly test: string;
  /** Change of the line that takes the slip out, where there is one. */
  readonly edit: LineEdit | null;
  /** Others that these observations cannot tell from it. */
  readonly alike: readonly {
    readonly ids: readonly string[];
    readonly title: string;
    readonly test: string;
    readonly edit: LineEdit | null;
  }[];
}

export interface SlipContext {
  readonly unit: UnitId;
  readonly line?: LineSpec;
  readonly sampleRateHz?: number;
  /** How well the expected value is known, relative: 0.05 is "about". */
  readonly tolerance?: number;
}

/** Explanations that read the same to within this share are alike. */
const ALIKE = 0.005;
const MOST = 10;
/** These read what is expected, whatever that is. */
const FITS_ANY = new Set(['tare', 'factor', 'saturation', 'rate']);
/** What a second slip costs: it must explain clearly what no single one does. */
const SECOND = 2.6;

/**
 * "It shows X, it should be about Y": explanations ranked by how well they fit and how common they are. Only what a reading
 * of this unit can have: factors and pairs of them, shifts of scale, with raw values slips in the line itself, and with
 * several observations whether a factor, a zero, a power, an end or a rate is behind it. Those that the observations cannot
 * tell apart are named together.
 * @returns best first, at most ten, none that misses by more than three times the tolerance; empty when the shown value is
 *   right already
 * @throws {RangeError} for no observation or a value that is not finite
 */
export function findSlips(observations: readonly SlipObservation[], context: SlipContext): SlipExplanation[] {
  if (observations.length === 0) throw new RangeError('Enter a reading and an expected value.');
  for (const o of observations) {
    if (!Number.isFinite(o.shown) || !Number.isFinite(o.expected))
      throw new RangeError(
        `Enter numbers for the reading and the expected value; received ${o.shown} and ${o.expected}.`,
      );
  }
  const { unit, line, sampleRateHz = 1, tolerance = 0.05 } = context;
  const scale = Math.max(...observations.map((o) => Math.abs(o.expected)), 1e-12);
  const misfits = (correct: (o: SlipObservation) => number) =>
    observations.map((o) => Math.abs(correct(o) - o.expected) / Math.max(Math.abs(o.expected), 0.1 * scale));
  if (Math.max(...misfits((o) => o.shown)) <= tolerance) return [];
  const singles = factorSlips(unit);
  const inLine = line ? slipsInLine(line, sampleRateHz, observations) : [];
  const bench = line ? whatTheLineReads(line, sampleRateHz, observations) : null;
  // Where the line reads what is shown, its constants may be wrong; where it reads what is expected, the program that shows is.
  const near = (a: number, b: number) =>
    Math.abs(a - b) <= 2 * tolerance * Math.max(Math.abs(b), 0.1 * scale);
  const isOfLine = bench !== null && observations.every((o, i) => near(bench[i]!, o.shown));
  const isOfProgram = bench !== null && observations.every((o, i) => near(bench[i]!, o.expected));
  const slips = [
    ...inLine.map((s) => ({ ...s, cost: s.cost - (isOfLine ? 0.6 : 0.3) + (isOfProgram ? 3 : 0) })),
    ...[...singles, ...shiftSlips(unit, observations)].map((s) => ({
      ...s,
      cost: s.cost - (isOfProgram ? 0.6 : 0),
    })),
    ...pairs(singles),
    ...slipsOfSeveral(unit, observations),
  ];
  const ranked = slips
    .map((slip) => ({ slip, misfit: misfits(slip.correct) }))
    .filter(({ misfit }) => misfit.every((m) => m <= 3 * tolerance))
    .map(({ slip, misfit }) => ({
      slip,
      misfit: Math.max(...misfit),
      rank: slip.cost + lack(misfit, tolerance),
    }))
    .sort((a, b) => a.rank - b.rank);
  return together(ranked, observations, scale);
}

/** What misfits cost: within the tolerance hardly anything, since nobody said it better; beyond it soon much. */
const lack = (misfits: readonly number[], tolerance: number) =>
  misfits.reduce((s, m) => s + 0.5 * (m / (0.6 * tolerance)) ** 2, 0) / Math.sqrt(misfits.length);

interface Ranked {
  readonly slip: Slip;
  readonly misfit: number;
  readonly rank: number;
}

/** Those that read the same of all observations stand with the best of them. */
function together(
  ranked: readonly Ranked[],
  observations: readonly SlipObservation[],
  scale: number,
): SlipExplanation[] {
  const groups: { best: Ranked; read: number[]; alike: Slip[] }[] = [];
  for (const one of ranked) {
    const read = observations.map((o) => one.slip.correct(o));
    const same = groups.find((g) =>
      g.read.every((r, i) => Math.abs(r - read[i]!) <= ALIKE * Math.max(Math.abs(r), 0.1 * scale)),
    );
    // What fits anything is no rival of what fits by itself; two slips at once are none of one that does it alone.
    if (same && !FITS_ANY.has(one.slip.ids[0]!)) {
      if (one.slip.ids.length === 1) same.alike.push(one.slip);
    } else groups.push({ best: one, read, alike: [] });
  }
  return groups.slice(0, MOST).map(({ best: { slip, misfit }, read, alike }) => ({
    ids: slip.ids,
    title: slip.title,
    corrected: read[0]!,
    misfit,
    test: slip.test,
    edit: slip.edit,
    alike: alike.map(({ ids, title, test, edit }) => ({ ids, title, test, edit })),
  }));
}

function whatTheLineReads(
  line: LineSpec,
  sampleRateHz: number,
  observations: readonly SlipObservation[],
): number[] | null {
  if (line.sources.length !== 1 || observations.some((o) => o.raw === undefined)) return null;
  try {
    const compiled = compileLine(line, { sampleRateHz });
    return observations.map((o) => readingAtRest(compiled, o.raw!));
  } catch (error) {
    if (error instanceof LineError || error instanceof RangeError) return null;
    throw error;
  }
}

/** Two factors at once; not one with its own inverse, nor two that make another single. */
function pairs(singles: readonly FactorSlip[]): Slip[] {
  return singles.flatMap((a, i) =>
    singles
      .slice(i + 1)
      .filter((b) => {
        const both = a.factor * b.factor;
        return (
          Math.abs(Math.log(both)) > 0.02 && !singles.some((s) => Math.abs(Math.log(both / s.factor)) < 0.01)
        );
      })
      .map((b) => ({
        ids: [...a.ids, ...b.ids],
        title: `${a.title}, and ${lowerFirst(b.title)}`,
        test: `${a.test} Then: ${lowerFirst(b.test)}`,
        cost: a.cost + b.cost + SECOND,
        edit: null,
        correct: (o: SlipObservation) => o.shown / (a.factor * b.factor),
      })),
  );
}
