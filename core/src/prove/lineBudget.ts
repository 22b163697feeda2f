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
import { lineOf, type BudgetInput, type ReadingNow } from './budgetInput.ts';
import { givesNumbers, shelfNoise } from './sensorOwn.ts';
import { combineBudget, type BudgetLine, type BudgetResult } from './errorBudget.ts';

export interface ReadingBudget {
  /** The reading that it was worked out at: the worst of those that could be. */
  readonly at: number;
  /** Raw values there, one a source. */
  readonly raw: readonly number[];
  readonly lines: BudgetLine[];
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
    return 'A filter of this line takes away what stands still, so that a reading at rest has no budget.';
  if (line.stages.some((s) => s.kind.over))
    return 'What other channels read comes to it, so that no reading by itself has a budget; none was told by the bench yet.';
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
            calibration ? 'Constants from true-up, and noise' : 'Constants as bought, and noise',
            u ?? Number.NaN,
            u === null
              ? 'nobody states what the constants are good to'
              : 'carried through the line over time by the bench, at the newest reading',
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

function fromConstants(input: BudgetInput, raw: readonly number[]): BudgetLine[] {
  const { line, calibration, sensor } = input;
  const drawn = bentConstants(line, raw, covarianceOf(input));
  const systematic = drawn ?? quietly(input, raw).systematic;
  const how =
    drawn === null
      ? ''
      : Number.isNaN(drawn)
        ? '; within that the line may give no number at all'
        : '; the line bends within that, so drawn and not taken as straight';
  if (calibration)
    return [
      lineOf(
        input,
        'Constants from true-up',
        systematic,
        `calibration ${calibration.number}, ${calibration.result.title.toLowerCase()}${how}`,
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
      'Constants as bought',
      isStated ? systematic : Number.NaN,
      isStated
        ? `tolerances of the parts on the Line page${how}`
        : sensor
          ? 'what turns its signal into codes: no stage of the line states what that is good to, nor does the shelf'
          : 'no stage of the line states what its constants are good to, and no sensor is picked',
    ),
  ];
}

/** Of a fit through all its points nothing is left over to judge it by, unless each could be foretold from the others. */
function leftOverOf(input: BudgetInput, { result }: Calibration, reading: number): BudgetLine {
  const title = 'Left over by the fit';
  const n = result.residuals.length;
  const leftOver = leftOverAt(covarianceOf(input)!.leftOver, reading);
  const hasMisfit = (result.misfit ?? null) !== null;
  const isTold = hasMisfit || result.degreesOfFreedom > 0 || result.leaveOneOutRms !== null;
  return isTold
    ? lineOf(
        input,
        title,
        leftOver,
        hasMisfit
          ? leftOver === 0
            ? `what its ${n} points show of bends stays within what the constants are allowed`
            : `bends that the fit cannot follow, as far as its ${n} points show them`
          : `errors at ${n} points, each left out in turn`,
        { degreesOfFreedom: leftOverDegreesOfFreedom(result) },
      )
    : lineOf(input, title, Number.NaN, `it passes through its ${n} points, so that nothing tells`);
}

function fromNoise(input: BudgetInput, raw: readonly number[]): BudgetLine[] {
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
      ? [lineOf(input, 'Rounding to codes', quiet.noise, 'half a code either way, shrunk by the filter')]
      : []),
    lineOf(
      input,
      'Noise of the reading',
      isMeasured ? measured : byShelf,
      isMeasured
        ? `scatter of single readings in ${points.length} captures, after the filter`
        : Number.isFinite(byShelf)
          ? `single readings of ${sensor!.title} by the shelf, after the filter; not measured yet`
          : 'not measured yet',
    ),
  ];
}
