import type { CheckJudgement } from '../calibrate/judgeChecks.ts';
import type { CompiledLine } from '../line/compile.ts';
import { calibrationDue } from '../calibrate/calibrationDue.ts';
import { slopeAtRest } from '../line/atRest.ts';
import { filterTotals } from '../line/filterTraits.ts';
import type { Calibration, CalibrationPoint } from '../model/calibration.ts';
import type { ChannelBrief } from '../model/gadget.ts';
import {
  convertDifference,
  convertUnit,
  isoTime,
  printNumber,
  printSignificant,
  UNITS,
} from '../units/index.ts';
import type { BudgetSource } from './budgetSources.ts';
import { evidenceOf, type Evidence } from './evidence.ts';
import type { ReadingNow } from './budgetInput.ts';
import { lineBudget, type ReadingBudget } from './lineBudget.ts';
import { seenInPoints } from './seenInPoints.ts';
import { movedSince } from './movedSince.ts';
import { neededRateHz } from './neededRate.ts';
import type { SensorOwn } from './sensorOwn.ts';
import type { VerdictState } from '../verdict/guardBand.ts';
import { listed, lowerFirst } from '../words/index.ts';

export interface Claim {
  /** Of a study, "study-" and its id; of a figure, "figure-" and its id. */
  readonly id: 'check' | 'budget' | 'span' | 'rate' | 'noise' | `study-${string}` | `figure-${string}`;
  readonly title: string;
  readonly state: VerdictState;
  readonly sentence: string;
  /** What would show it, when it is not shown, or mend it, when it fails; empty otherwise. */
  readonly next: string;
  /** Where that is done; null where there is nothing to do. */
  readonly by: 'link' | 'true-up' | 'check point' | 'line' | 'pick' | 'shelf' | 'study' | 'new study' | null;
}

export interface Proof {
  readonly claims: Claim[];
  readonly checks: readonly CheckJudgement[];
  /** Why there is none, where there is none. */
  readonly budget: ReadingBudget | string;
  readonly shown: number;
}

export interface ProofInput {
  readonly line: CompiledLine;
  readonly brief: ChannelBrief;
  readonly calibration: Calibration | null;
  /** All points of this channel, also those that were left out by hand. */
  readonly points: readonly CalibrationPoint[];
  /** Raw rows that were really seen, for lines that cannot be walked back; none when not given. */
  readonly seen?: readonly (readonly number[])[];
  /** The newest reading with what it is worth, for lines without readings at rest; null before the first. */
  readonly now?: ReadingNow | null;
  /** The picked sensor, as the shelf has it; null where none is picked. */
  readonly sensor: SensorOwn | null;
  /** Readings a second measured on the link; null when it is not up. */
  readonly achievedHz: number | null;
  /** When it is judged, ms since 1970: evidence grows old. */
  readonly atMs: number;
}

/** Judges a channel against its brief: five claims, each pass, fail or not shown. Too few readings is never a pass. */
export function proveChannel(input: ProofInput): Proof {
  const { line, brief, calibration } = input;
  const unit = line.outputs[0]!.unit;
  const tolerance = convertDifference(brief.tolerance, brief.unit, unit);
  const points = input.points.filter((p) => p.excluded === null);
  const evidence = evidenceOf(line, brief, calibration, input.points, input.atMs);
  const { checks } = evidence;
  const told = seenInPoints(points, line);
  const budget = lineBudget({
    line,
    brief,
    calibration,
    points,
    ...told,
    seen: input.seen ?? [],
    sensor: input.sensor,
    achievedHz: input.achievedHz,
    now: input.now ?? null,
  });
  const moved = movedSince(line, calibration, input.points);
  const claims: Claim[] = [
    checkClaim(evidence),
    moved > 0
      ? staleBudget(moved, UNITS[unit].symbol)
      : unlessOverdue(budgetClaim(budget, tolerance, input), input, checks),
    spanClaim(input, points),
    rateClaim(line, brief, input.achievedHz),
    noiseClaim(line, budget, told.noiseRaw, tolerance, UNITS[unit].symbol),
  ];
  return { claims, checks, budget, shown: claims.filter((c) => c.state === 'pass').length };
}

function checkClaim({ checks, reachesBetween, isOneReference, remarks, isContradicted }: Evidence): Claim {
  const base = { id: 'check' as const, title: 'Accurate at check points' };
  if (checks.length === 0) {
    return {
      ...base,
      state: 'not shown',
      sentence: ['No check point captured yet.', ...remarks].join(' '),
      next: 'On True-up, capture a check point at a different value, with a different reference.',
      by: 'check point',
    };
  }
  const failed = checks.filter((c) => c.verdict.state === 'fail');
  const open = checks.filter((c) => c.verdict.state === 'not shown');
  const worst = checks.toSorted((a, b) => a.verdict.margin - b.verdict.margin)[0]!;
  const state =
    failed.length > 0
      ? 'fail'
      : open.length > 0 || isContradicted || !reachesBetween || isOneReference
        ? 'not shown'
        : 'pass';
  return {
    ...base,
    state,
    sentence: [
      `${checks.length === 1 ? '' : `Worst of ${checks.length}: `}${worst.verdict.sentence}`,
      ...(reachesBetween ? [] : ['All check points are at fitted points; between them nothing is proven.']),
      ...remarks,
    ].join(' '),
    next:
      state === 'not shown'
        ? isContradicted
          ? 'Include the excluded point again, or capture another check point there.'
          : reachesBetween
            ? isOneReference && open.length === 0
              ? 'Capture a check point with a different reference.'
              : 'Use a better reference, or capture more readings.'
            : 'Capture a check point away from the fitted points, with a different reference.'
        : state === 'fail'
          ? 'Calibrate again: the reading does not agree with the reference there.'
          : '',
    by: state === 'not shown' ? 'check point' : state === 'fail' ? 'true-up' : null,
  };
}

function budgetClaim(
  budget: ReadingBudget | string,
  tolerance: number,
  { line, brief, calibration, sensor }: ProofInput,
): Claim {
  const isPicked = sensor !== null;
  const unit = line.outputs[0]!.unit;
  const { symbol } = UNITS[unit];
  const base = { id: 'budget' as const, title: 'Uncertainty budget within the tolerance' };
  if (typeof budget === 'string')
    return {
      ...base,
      state: 'not shown',
      sentence: budget,
      next: 'Calibrate against references while the link is up: the budget needs raw data and the uncertainty of the constants.',
      by: 'true-up',
    };
  const { expanded: u } = budget.result;
  const unknown = budget.lines.filter((l) => Number.isNaN(l.halfWidth));
  if (unknown.length > 0 && !(u > tolerance && calibration))
    return {
      ...base,
      state: 'not shown',
      sentence: `Unknown: ${listed(unknown.map((l) => lowerFirst(l.title)))}.${u > 0 ? ` Known contributions: ±${printSignificant(u, 2)} ${symbol};` : ' No other contributions;'} tolerance ±${printSignificant(tolerance, 2)} ${symbol}.`,
      ...(u > tolerance
        ? TRUE_UP
        : wayOut(
            unknown.map((l) => l.id),
            calibration !== null,
            isPicked,
          )),
    };
  const top = Math.max(
    Math.abs(convertUnit(brief.low, brief.unit, unit)),
    Math.abs(convertUnit(brief.high, brief.unit, unit)),
  );
  if (budget.raw.length === 0 && u <= tolerance && Math.abs(budget.at) < top / 2)
    return {
      ...base,
      state: 'not shown',
      sentence: `±${printSignificant(u, 2)} ${symbol} at the latest reading, ${printNumber(budget.at, 1)} ${symbol}; unknown for the upper half of the range, up to ${printNumber(top, 0)} ${symbol}.`,
      next: 'Take a reading in the upper half of the range while the link is up.',
      by: 'line',
    };
  const state: VerdictState = u <= tolerance ? 'pass' : calibration ? 'fail' : 'not shown';
  return {
    ...base,
    state,
    sentence: `±${printSignificant(u, 2)} ${symbol} with 95 % confidence, worst near ${printNumber(budget.at, 0)} ${symbol}; tolerance ±${printSignificant(tolerance, 2)} ${symbol}.`,
    ...(state === 'not shown'
      ? TRUE_UP
      : state === 'fail'
        ? { next: largestOf(budget), by: 'line' }
        : { next: '', by: null }),
  };
}

const TRUE_UP: Pick<Claim, 'next' | 'by'> = {
  next: 'Calibrate against references: uncalibrated, the tolerance cannot be guaranteed.',
  by: 'true-up',
};

/** A calibration that nobody has checked for longer than it is good for promises nothing, unless a check agreed meanwhile. */
function unlessOverdue(
  claim: Claim,
  { calibration, points, atMs }: ProofInput,
  checks: readonly CheckJudgement[],
): Claim {
  if (claim.state !== 'pass' || !calibration) return claim;
  const today = isoTime(atMs / 1000).slice(0, 10);
  const agreed = checks
    .filter((c) => c.verdict.state === 'pass')
    .flatMap((c) => points.find((p) => p.id === c.pointId)?.keptAt ?? []);
  const lastAt = [calibration.createdAt, ...agreed].toSorted().at(-1)!;
  const { dueOn, overdue } = calibrationDue({ ...calibration, createdAt: lastAt }, today);
  if (!overdue) return claim;
  return {
    ...claim,
    state: 'not shown',
    sentence: `Calibration ${calibration.number} was due for a check by ${dueOn}, so its uncertainty may no longer hold. ${claim.sentence}`,
    next: 'Capture a check point with a good reference: if it agrees, the calibration is valid for the same period again.',
    by: 'check point',
  };
}

/** What a fit said of its constants is not said of a line that was changed since. */
const staleBudget = (moved: number, symbol: string): Claim => ({
  id: 'budget',
  title: 'Uncertainty budget within the tolerance',
  state: 'not shown',
  sentence: Number.isFinite(moved)
    ? `The line, or the reference of a point, has changed since this calibration: at its own points the reading now differs by up to ${printSignificant(moved, 2)} ${symbol}.`
    : 'The line has changed since this calibration: one of its points no longer gives a reading.',
  next: 'Use this fit again: the existing points are recalculated with the current line.',
  by: 'true-up',
});

/** What to make smaller, and how where that is known. */
function largestOf({ lines, result }: ReadingBudget): string {
  const at = result.shares.indexOf(Math.max(...result.shares));
  const { id, title } = lines[at]!;
  const how =
    id === 'lag'
      ? ' Use a shorter filter, a faster sensor, or a slower change in the brief.'
      : id === 'peakLoss' || id === 'amplitudeLoss'
        ? ' Use a shorter filter, a faster sensor, or more readings per second.'
        : id === 'outsidePoints'
          ? ' Capture points there.'
          : '';
  return `Reduce the largest contribution: ${lowerFirst(title)}, ${printNumber(100 * result.shares[at]!, 0)} %.${how}`;
}

/** Where what is not known of a budget is found out. */
function wayOut(
  unknown: readonly BudgetSource[],
  isTruedUp: boolean,
  isPicked: boolean,
): Pick<Claim, 'next' | 'by'> {
  if (unknown.length === 1 && unknown[0] === 'noise')
    return { next: 'Capture a point: each capture measures the noise.', by: 'true-up' };
  if (unknown.includes('fitError'))
    return {
      next: 'Capture one more point for the fit: it passes through all its points, so its error cannot be judged.',
      by: 'true-up',
    };
  if (!isPicked)
    return {
      next: 'Pick the sensor: the shelf has its accuracy and response time.',
      by: 'pick',
    };
  return isTruedUp
    ? { next: 'Add the sensor’s data to the shelf as a custom part.', by: 'shelf' }
    : { next: 'Calibrate against references: the uncertainty is unknown.', by: 'true-up' };
}

function spanClaim({ brief, calibration, line }: ProofInput, points: readonly CalibrationPoint[]): Claim {
  const unit = line.outputs[0]!.unit;
  const base = { id: 'span' as const, title: 'Points cover the brief’s range' };
  const low = convertUnit(brief.low, brief.unit, unit);
  const high = convertUnit(brief.high, brief.unit, unit);
  const values = points.map((p) => convertUnit(p.worth.value, p.worth.unit, unit));
  if (!calibration || values.length === 0) {
    return {
      ...base,
      state: 'not shown',
      sentence: 'No active calibration.',
      next: 'Capture points near both ends of the range and use the calibration.',
      by: 'true-up',
    };
  }
  const from = Math.max(low, Math.min(...values));
  const to = Math.min(high, Math.max(...values));
  const covered = Math.max(0, to - from) / (high - low);
  const symbol = UNITS[unit].symbol;
  return {
    ...base,
    state: covered >= 0.8 ? 'pass' : 'not shown',
    sentence: `Points from ${printNumber(Math.min(...values), 1)} to ${printNumber(Math.max(...values), 1)} ${symbol} cover ${printNumber(100 * covered, 0)} % of ${printNumber(low, 0)} to ${printNumber(high, 0)} ${symbol}; at least 80 % is required.`,
    next: covered >= 0.8 ? '' : 'Capture a point nearer to the uncovered end.',
    by: covered >= 0.8 ? null : 'true-up',
  };
}

function rateClaim(line: CompiledLine, brief: ChannelBrief, achievedHz: number | null): Claim {
  const base = { id: 'rate' as const, title: 'Fast enough for the fastest change' };
  const addsUp = line.stages[0]?.kind.addsUp === true;
  const needed = neededRateHz(brief);
  if (achievedHz === null || achievedHz <= 0) {
    return {
      ...base,
      state: 'not shown',
      sentence: `${addsUp ? '' : `${printSignificant(needed)} readings per second are needed. `}No readings from the link.`,
      next: 'Connect the gadget.',
      by: 'link',
    };
  }
  if (addsUp)
    return {
      ...base,
      state: 'pass',
      sentence: `Steps and edges are counted before sending, so none are lost at ${printSignificant(achievedHz)} readings per second.`,
      next: '',
      by: null,
    };
  return {
    ...base,
    state: achievedHz >= needed ? 'pass' : 'fail',
    sentence: `${printSignificant(achievedHz)} readings per second received; ${printSignificant(needed)} needed.`,
    next:
      achievedHz >= needed
        ? ''
        : 'Make the board send more often, or set a slower fastest change in the brief.',
    by: achievedHz >= needed ? null : 'link',
  };
}

function noiseClaim(
  line: CompiledLine,
  budget: ReadingBudget | string,
  noise: number | null,
  tolerance: number,
  symbol: string,
): Claim {
  const base = { id: 'noise' as const, title: 'Steady enough to read' };
  if (noise === null || typeof budget === 'string' || budget.raw.length !== 1) {
    return {
      ...base,
      state: 'not shown',
      sentence: 'The noise has not been measured.',
      next: 'Capture a point: each capture measures the noise.',
      by: 'true-up',
    };
  }
  const smoothing = filterTotals(line).noiseGain;
  const spread = 2 * Math.abs(slopeAtRest(line, budget.raw[0]!)) * noise * smoothing;
  return {
    ...base,
    state: spread <= tolerance / 3 ? 'pass' : 'fail',
    sentence: `The reading varies by ±${printSignificant(spread, 2)} ${symbol} (2 standard deviations) at the worst point; the limit is a third of the tolerance, ±${printSignificant(tolerance / 3, 2)} ${symbol}.`,
    next: spread <= tolerance / 3 ? '' : 'Add a slower filter to the line, if the fastest change allows it.',
    by: spread <= tolerance / 3 ? null : 'line',
  };
}
