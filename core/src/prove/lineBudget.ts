import { calibrationCovariance } from '../calibrate/calibrationCovariance.ts';
import { isUncertaintyKnown } from '../calibrate/isUncertaintyKnown.ts';
import { readingAtRest } from '../line/atRest.ts';
import type { CompiledLine } from '../line/compile.ts';
import { invertLine } from '../line/invert.ts';
import { filterTotals } from '../line/filterTraits.ts';
import { lineUncertainty } from '../line/uncertainty.ts';
import type { Calibration, CalibrationPoint } from '../model/calibration.ts';
import type { ChannelBrief } from '../model/gadget.ts';
import { LineError } from '../stage/contract.ts';
import { convertDifference, convertUnit, UNITS } from '../units/index.ts';
import { combineBudget, type BudgetLine, type BudgetResult } from './errorBudget.ts';

export interface ReadingBudget {
  /** The reading that it was worked out at: the worst of those that could be. */
  readonly at: number;
  /** Raw values there, one a source. */
  readonly raw: readonly number[];
  readonly lines: BudgetLine[];
  readonly result: BudgetResult;
}

export interface BudgetInput {
  /** The channel's line with its calibration. */
  readonly line: CompiledLine;
  readonly brief: ChannelBrief;
  readonly calibration: Calibration | null;
  readonly points: readonly CalibrationPoint[];
  /** Standard deviation of single raw readings of the first source; null when it was never measured. */
  readonly noiseRaw: number | null;
  /** Raw rows that were really seen, one value a source: used where a line cannot be walked back from the brief's ends. */
  readonly seen: readonly (readonly number[])[];
}

/**
 * Error budget of one shown reading at the worst of the brief's low, middle and high ends; of a line that cannot be walked
 * back, at the worst of the rows that were seen. What nobody stated or measured is not known, and never nothing.
 * @returns why there is none, where there is no place to work it out at
 */
export function lineBudget(input: BudgetInput): ReadingBudget | string {
  const places = placesOf(input);
  if (typeof places === 'string') return places;
  const budgets = places.map((raw) => budgetAt(input, raw));
  return budgets.reduce((worst, b) => (b.result.expanded > worst.result.expanded ? b : worst));
}

function placesOf({ line, brief, seen }: BudgetInput): number[][] | string {
  const unit = line.outputs[0]!.unit;
  if (line.stages.some((s) => s.kind.atRest === 'zero'))
    return 'A filter of this line takes away what stands still, so that a reading at rest has no budget.';
  const isWithin = (raw: readonly number[]) => Number.isFinite(readingAtRest(line, raw));
  if (line.sources.length === 1) {
    try {
      const ends = [brief.low, (brief.low + brief.high) / 2, brief.high].map((v) => [
        invertLine(line, convertUnit(v, brief.unit, unit))[0]!,
      ]);
      if (ends.every(isWithin)) return ends;
    } catch (error) {
      if (!(error instanceof LineError)) throw error;
    }
  }
  const rows = seen.filter((raw) => raw.length === line.sources.length && isWithin(raw));
  if (rows.length > 0) return rows.map((raw) => [...raw]);
  return line.stages.some((s) => !s.kind.scalar && !s.kind.vector && s.kind.role !== 'filter')
    ? 'A stage of this line only has meaning over time, so no single reading has a budget.'
    : 'The line cannot be walked back from readings, and no raw row was seen yet.';
}

function budgetAt(input: BudgetInput, raw: readonly number[]): ReadingBudget {
  const { line, brief, calibration, points, noiseRaw } = input;
  const unit = line.outputs[0]!.unit;
  const symbol = UNITS[unit].symbol;
  const delay = filterTotals(line).delayS;
  const covariance = calibration ? calibrationCovariance(calibration.result) : null;
  const quiet = lineUncertainty(
    line,
    raw,
    raw.map(() => 0),
    covariance && { ...covariance, leftOver: 0 },
  ).at(-1)!;
  const isKnown = isUncertaintyKnown(line.spec, calibration);
  const counted = line.sources.some((s) => s.unit === 'count');
  // Of several sources only the first is captured: the scatter of the others is not known.
  const noisy =
    noiseRaw === null || raw.length > 1
      ? Number.NaN
      : Math.sqrt(
          Math.max(0, lineUncertainty(line, raw, noiseRaw, null).at(-1)!.noise ** 2 - quiet.noise ** 2),
        );
  const fast = brief.fastest.kind === 'ramp' ? brief.fastest.ratePerS : 0;
  const own = (
    title: string,
    halfWidth: number,
    source: string,
    more: Partial<BudgetLine> = {},
  ): BudgetLine => ({
    title,
    halfWidth,
    unit: symbol,
    distribution: 'normal',
    sensitivity: 1,
    degreesOfFreedom: Infinity,
    source,
    ...more,
  });
  const lines: BudgetLine[] = [
    own(
      calibration ? 'Constants from true-up' : 'Constants as bought',
      isKnown ? quiet.systematic : Number.NaN,
      calibration
        ? `calibration ${calibration.number}, ${calibration.result.title.toLowerCase()}`
        : isKnown
          ? 'tolerances of the parts on the Line page'
          : 'no stage of the line states what its constants are good to',
    ),
    ...(calibration
      ? [
          own(
            'Left over by the fit',
            covariance!.leftOver,
            `errors at ${calibration.result.residuals.length} points, each left out in turn`,
            { degreesOfFreedom: Math.max(1, calibration.result.degreesOfFreedom) },
          ),
        ]
      : []),
    // Only a converter rounds to codes.
    ...(counted
      ? [own('Rounding to codes', quiet.noise, 'half a code either way, shrunk by the filter')]
      : []),
    own(
      'Noise of the reading',
      noisy,
      Number.isNaN(noisy)
        ? 'not measured yet'
        : `scatter of single readings in ${points.length} captures, after the filter`,
    ),
    own(
      'Lag on the fastest change',
      convertDifference(fast, brief.unit, unit) * delay,
      `${delay.toFixed(2)} s of filter delay`,
      { distribution: 'rectangular' },
    ),
  ];
  return { at: readingAtRest(line, raw), raw, lines, result: combineBudget(lines) };
}

/** Pooled standard deviation of single raw readings over captures; null without any. */
export function pooledNoise(points: readonly CalibrationPoint[]): number | null {
  const freedom = points.reduce((s, p) => s + p.capture.n - 1, 0);
  if (freedom < 1) return null;
  return Math.sqrt(points.reduce((s, p) => s + (p.capture.n - 1) * p.capture.sd ** 2, 0) / freedom);
}
