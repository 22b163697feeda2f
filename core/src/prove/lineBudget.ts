import { calibrationCovariance } from '../calibrate/calibrationCovariance.ts';
import type { CompiledLine } from '../line/compile.ts';
import { invertLine } from '../line/invert.ts';
import { slopeAtRest } from '../line/atRest.ts';
import { filterTotals } from '../line/filterTraits.ts';
import { lineUncertainty } from '../line/uncertainty.ts';
import type { Calibration, CalibrationPoint } from '../model/calibration.ts';
import type { ChannelBrief } from '../model/gadget.ts';
import { convertDifference, convertUnit, UNITS } from '../units/index.ts';
import { combineBudget, type BudgetLine, type BudgetResult } from './errorBudget.ts';

export interface ReadingBudget {
  /** Where on the brief's scale it was worked out: the worst of low, middle and high. */
  readonly at: number;
  readonly raw: number;
  readonly lines: BudgetLine[];
  readonly result: BudgetResult;
}

/**
 * Error budget of one shown reading at the worst of the brief's low, middle and high ends.
 * @param line the channel's line with its calibration
 * @param noiseRaw standard deviation of single raw readings; null when it was never measured
 * @throws {LineError} when the line cannot be inverted
 */
export function lineBudget(
  line: CompiledLine,
  brief: ChannelBrief,
  calibration: Calibration | null,
  points: readonly CalibrationPoint[],
  noiseRaw: number | null,
): ReadingBudget {
  const unit = line.outputs[0]!.unit;
  const ends = [brief.low, (brief.low + brief.high) / 2, brief.high].map((v) =>
    convertUnit(v, brief.unit, unit),
  );
  const budgets = ends.map((at) => budgetAt(line, at, brief, calibration, points, noiseRaw));
  return budgets.reduce((worst, b) => (b.result.expanded > worst.result.expanded ? b : worst));
}

function budgetAt(
  line: CompiledLine,
  at: number,
  brief: ChannelBrief,
  calibration: Calibration | null,
  points: readonly CalibrationPoint[],
  noiseRaw: number | null,
): ReadingBudget {
  const unit = line.outputs[0]!.unit;
  const symbol = UNITS[unit].symbol;
  const raw = invertLine(line, at)[0]!;
  const slope = slopeAtRest(line, raw);
  const { noiseGain: smoothing, delayS: delay } = filterTotals(line);
  const covariance = calibration ? calibrationCovariance(calibration.result) : null;
  const constants = lineUncertainty(line, raw, 0, covariance && { ...covariance, leftOver: 0 }).at(
    -1,
  )!.systematic;
  const fast = brief.fastest.kind === 'ramp' ? brief.fastest.ratePerS : 0;
  const own = (lines: Omit<BudgetLine, 'degreesOfFreedom'>[]) =>
    lines.map((l) => ({ ...l, degreesOfFreedom: Infinity }));
  const lines: BudgetLine[] = [
    {
      title: calibration ? 'Constants from true-up' : 'Constants as bought',
      halfWidth: constants,
      unit: symbol,
      distribution: 'normal',
      sensitivity: 1,
      degreesOfFreedom: Infinity,
      source: calibration
        ? `calibration ${calibration.number}, ${calibration.result.title.toLowerCase()}`
        : 'tolerances of the parts on the Line page',
    },
    ...(calibration
      ? [
          {
            title: 'Left over by the fit',
            halfWidth: covariance!.leftOver,
            unit: symbol,
            distribution: 'normal' as const,
            sensitivity: 1,
            degreesOfFreedom: Math.max(1, calibration.result.degreesOfFreedom),
            source: `errors at ${calibration.result.residuals.length} points, each left out in turn`,
          },
        ]
      : []),
    ...own([
      {
        title: 'Rounding to codes',
        halfWidth: 0.5,
        unit: 'counts',
        distribution: 'rectangular',
        sensitivity: slope * smoothing,
        source: 'half a code either way, shrunk by the filter',
      },
      {
        title: 'Noise of the reading',
        halfWidth: noiseRaw ?? 0,
        unit: 'counts',
        distribution: 'normal',
        sensitivity: slope * smoothing,
        source:
          noiseRaw === null
            ? 'not measured yet'
            : `scatter of single readings in ${points.length} captures, after the filter`,
      },
      {
        title: 'Lag on the fastest change',
        halfWidth: convertDifference(fast, brief.unit, unit) * delay,
        unit: symbol,
        distribution: 'rectangular',
        sensitivity: 1,
        source: `${delay.toFixed(2)} s of filter delay`,
      },
    ]),
  ];
  return { at, raw, lines, result: combineBudget(lines) };
}

/** Pooled standard deviation of single raw readings over captures; null without any. */
export function pooledNoise(points: readonly CalibrationPoint[]): number | null {
  const freedom = points.reduce((s, p) => s + p.capture.n - 1, 0);
  if (freedom < 1) return null;
  return Math.sqrt(points.reduce((s, p) => s + (p.capture.n - 1) * p.capture.sd ** 2, 0) / freedom);
}
