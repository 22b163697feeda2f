import { calibrationCovariance } from '../calibrate/calibrationCovariance.ts';
import { leftOverDegreesOfFreedom, widthDegreesOfFreedom } from '../calibrate/coverageFactor.ts';
import { isBeyondPoints } from '../calibrate/isBeyondPoints.ts';
import { isUncertaintyKnown } from '../calibrate/isUncertaintyKnown.ts';
import { readingAtRest } from '../line/atRest.ts';
import { invertLine } from '../line/invert.ts';
import { filterTotals } from '../line/filterTraits.ts';
import { leftOverAt } from '../line/leftOver.ts';
import { lineUncertainty } from '../line/uncertainty.ts';
import type { Calibration } from '../model/calibration.ts';
import { LineError } from '../stage/contract.ts';
import { convertUnit } from '../units/index.ts';
import { bentConstants } from './bentConstants.ts';
import { boughtAt, fromEvent, fromSensor } from './budgetFromShelf.ts';
import { lineOf, type BudgetInput, type ReadingNow, type SourceLine } from './budgetInput.ts';
import { givesNumbers, shelfNoise } from './sensorOwn.ts';
import { combineBudget, type BudgetResult } from './errorBudget.ts';

export interface ReadingBudget {
  /** The reading that it was worked out at: the worst of those that could be. */
  readonly at: number;
  /** Raw values there, one a source. */
  readonly raw: readonly number[];
  readonly lines: SourceLine[];
  readonly result: BudgetResult;
}

/**
 * Error budget of one shown reading at the worst of the brief's low, middle and high ends; of a line that cannot be walked
 * back, at the worst of the rows that were seen. What nobody stated or measured is not known, and never nothing.
 * @returns why there is none, where there is no place to work it out at
 */
export function lineBudget(input: BudgetInput): ReadingBudget | string {
  const places = placesOf(input);
  if (typeof places === 'string') return input.now ? budgetNow(input, input.now) : places;
  const budgets = places.map((raw) => budgetAt(input, raw));
  return budgets.reduce((worst, b) => (b.result.expanded > worst.result.expanded ? b : worst));
}

function placesOf({ line, brief, seen }: BudgetInput): number[][] | string {
  const unit = line.outputs[0]!.unit;
  if (line.stages.some((s) => s.kind.atRest === 'zero'))
    return 'A filter in this line removes constant values, so there is no uncertainty budget for a reading at rest.';
  if (line.stages.some((s) => s.kind.over))
    return 'The reading includes readings of other channels, so it has no uncertainty budget of its own. No live budget has been received yet.';
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
    ? 'A stage in this line works over time, so a single reading has no uncertainty budget.'
    : 'The line cannot be inverted, and no raw data has been received yet.';
}

function budgetAt(input: BudgetInput, raw: readonly number[]): ReadingBudget {
  const reading = readingAtRest(input.line, raw);
  const isBeyond = isBeyondPoints(input.calibration?.result.validRaw, raw);
  const lines = [
    ...fromConstants(input, raw),
    ...fromSensor(input, reading, isBeyond),
    ...fromNoise(input, raw),
    ...fromEvent(input, reading),
  ];
  return { at: reading, raw, lines, result: combineBudget(lines) };
}

/** Of a line that only has meaning over time, at the newest reading: the bench itself tells what that is worth. */
function budgetNow(input: BudgetInput, { reading, u }: ReadingNow): ReadingBudget {
  const { calibration, sensor } = input;
  const isKnown = u !== null || (!calibration && sensor !== null && givesNumbers(sensor));
  const lines = [
    ...(u === null && isKnown
      ? []
      : [
          lineOf(
            input,
            calibration ? 'constantsAndNoise' : 'uncalibratedConstantsAndNoise',
            u ?? Number.NaN,
            u === null
              ? 'uncertainty of the constants unknown'
              : 'calculated live through the line, at the latest reading',
          ),
        ]),
    ...fromSensor(input, reading, false),
    // What becomes of a swing that is turned into something else, no share of its height tells.
    ...(input.brief.fastest.kind === 'ramp' ? fromEvent(input, reading) : []),
  ];
  return { at: reading, raw: [], lines, result: combineBudget(lines) };
}

const covarianceOf = ({ calibration }: BudgetInput) =>
  calibration ? calibrationCovariance(calibration.result) : null;

/** A reading without any noise of its own: what is left is rounding and the constants. */
function quietly(input: BudgetInput, raw: readonly number[]) {
  const covariance = covarianceOf(input);
  return lineUncertainty(
    input.line,
    raw,
    raw.map(() => 0),
    covariance && { ...covariance, leftOver: 0 },
  ).at(-1)!;
}

function fromConstants(input: BudgetInput, raw: readonly number[]): SourceLine[] {
  const { line, calibration, sensor } = input;
  const drawn = bentConstants(line, raw, covarianceOf(input));
  const systematic = drawn ?? quietly(input, raw).systematic;
  const how =
    drawn === null
      ? ''
      : Number.isNaN(drawn)
        ? '; over that range the line may give no reading'
        : '; the line is curved over that range, so calculated by simulation (Monte Carlo) instead of linearly';
  if (calibration)
    return [
      lineOf(
        input,
        'constants',
        systematic,
        `calibration ${calibration.number}, ${calibration.result.title}${how}`,
        { degreesOfFreedom: widthDegreesOfFreedom(calibration.result) },
      ),
      leftOverOf(input, calibration, readingAtRest(line, raw)),
    ];
  const isStated = isUncertaintyKnown(line.spec, null);
  // Where the maker states nothing of the constants, what a sensor that gives numbers is good to stands for all of it.
  if (
    !isStated &&
    sensor &&
    givesNumbers(sensor) &&
    Number.isFinite(boughtAt(input, readingAtRest(line, raw)))
  )
    return [];
  return [
    lineOf(
      input,
      'uncalibratedConstants',
      isStated ? systematic : Number.NaN,
      isStated
        ? `part tolerances entered on the Line page${how}`
        : sensor
          ? 'conversion of the sensor signal to counts: neither the line nor the shelf states its uncertainty'
          : 'no stage states the uncertainty of its constants, and no sensor is picked',
    ),
  ];
}

/** Of a fit through all its points nothing is left over to judge it by, unless each could be foretold from the others. */
function leftOverOf(input: BudgetInput, { result }: Calibration, reading: number): SourceLine {
  const n = result.residuals.length;
  const leftOver = leftOverAt(covarianceOf(input)!.leftOver, reading);
  const hasMisfit = (result.misfit ?? null) !== null;
  const isTold = hasMisfit || result.degreesOfFreedom > 0 || result.leaveOneOutRms !== null;
  return isTold
    ? lineOf(
        input,
        'fitError',
        leftOver,
        hasMisfit
          ? leftOver === 0
            ? `curvature at the ${n} points is within the tolerance of the constants`
            : `curvature that the fit cannot follow, as far as its ${n} points show it`
          : `errors at ${n} points, each left out in turn (leave-one-out)`,
        { degreesOfFreedom: leftOverDegreesOfFreedom(result) },
      )
    : lineOf(
        input,
        'fitError',
        Number.NaN,
        `the fit passes through all ${n} points, so its error cannot be judged`,
      );
}

function fromNoise(input: BudgetInput, raw: readonly number[]): SourceLine[] {
  const { line, points, noiseRaw, sensor } = input;
  const quiet = quietly(input, raw);
  // Of several sources only the first is captured: the scatter of the others is not known.
  const measured =
    noiseRaw === null || raw.length > 1
      ? Number.NaN
      : Math.sqrt(
          Math.max(0, lineUncertainty(line, raw, noiseRaw, null).at(-1)!.noise ** 2 - quiet.noise ** 2),
        );
  const byShelf = shelfNoise(sensor, line.outputs[0]!.unit) * filterTotals(line).noiseGain;
  const isMeasured = Number.isFinite(measured);
  return [
    // Only a converter rounds to codes.
    ...(line.sources.some((s) => s.unit === 'count')
      ? [lineOf(input, 'quantization', quiet.noise, '± half an ADC count, reduced by the filter')]
      : []),
    lineOf(
      input,
      'noise',
      isMeasured ? measured : byShelf,
      isMeasured
        ? `scatter of single readings in ${points.length} captures, after the filter`
        : Number.isFinite(byShelf)
          ? `noise of single readings of ${sensor!.title} (shelf data), after the filter; not measured yet`
          : 'not measured yet',
    ),
  ];
}
