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
import { evidenceOf, type Evidence } from './evidence.ts';
import type { ReadingNow } from './budgetInput.ts';
import { lineBudget, type ReadingBudget } from './lineBudget.ts';
import { seenInPoints } from './seenInPoints.ts';
import { movedSince } from './movedSince.ts';
import { neededRateHz } from './neededRate.ts';
import type { SensorOwn } from './sensorOwn.ts';
import type { VerdictState } from '../verdict/guardBand.ts';

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
  const base = { id: 'check' as const, title: 'Right at points kept out of the fit' };
  if (checks.length === 0) {
    return {
      ...base,
      state: 'not shown',
      sentence: ['No check point has been kept.', ...remarks].join(' '),
      next: 'On True-up, keep a point as a check: at another value, with another reference.',
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
      ...(reachesBetween ? [] : ['All lie where the fit has its own points; between them nothing is shown.']),
      ...remarks,
    ].join(' '),
    next:
      state === 'not shown'
        ? isContradicted
          ? 'Let the point that was left out count again, or keep another check there.'
          : reachesBetween
            ? isOneReference && open.length === 0
              ? 'Keep a check with another reference.'
              : 'Use a better reference, or keep more readings.'
            : 'Keep a check away from the points of the fit, with another reference.'
        : state === 'fail'
          ? 'True it up again: it does not read there what the reference says.'
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
  const base = { id: 'budget' as const, title: 'Error budget inside the tolerance' };
  if (typeof budget === 'string')
    return {
      ...base,
      state: 'not shown',
      sentence: budget,
      next: 'True it up against references, with the link up: a budget needs rows that were seen and what the constants are worth.',
      by: 'true-up',
    };
  const { expanded: u, unknown } = budget.result;
  if (unknown.length > 0 && !(u > tolerance && calibration))
    return {
      ...base,
      state: 'not shown',
      sentence: `Not known: ${unknown.map((title) => title.toLowerCase()).join(', ')}.${u > 0 ? ` What is known makes ±${printSignificant(u, 2)} ${symbol};` : ' Nothing else counts;'} allowed ±${printSignificant(tolerance, 2)} ${symbol}.`,
      ...(u > tolerance ? TRUE_UP : wayOut(unknown, calibration !== null, isPicked)),
    };
  const top = Math.max(
    Math.abs(convertUnit(brief.low, brief.unit, unit)),
    Math.abs(convertUnit(brief.high, brief.unit, unit)),
  );
  if (budget.raw.length === 0 && u <= tolerance && Math.abs(budget.at) < top / 2)
    return {
      ...base,
      state: 'not shown',
      sentence: `±${printSignificant(u, 2)} ${symbol} at the newest reading, ${printNumber(budget.at, 1)} ${symbol}; of the upper half of the range, to ${printNumber(top, 0)} ${symbol}, nothing is known.`,
      next: 'Let it read in the upper half of its range while the link is up.',
      by: 'line',
    };
  const state: VerdictState = u <= tolerance ? 'pass' : calibration ? 'fail' : 'not shown';
  return {
    ...base,
    state,
    sentence: `±${printSignificant(u, 2)} ${symbol} at 95 %, worst near ${printNumber(budget.at, 0)} ${symbol}; allowed ±${printSignificant(tolerance, 2)} ${symbol}.`,
    ...(state === 'not shown'
      ? TRUE_UP
      : state === 'fail'
        ? { next: largestOf(budget), by: 'line' }
        : { next: '', by: null }),
  };
}

const TRUE_UP: Pick<Claim, 'next' | 'by'> = {
  next: 'True up against references: as bought it cannot promise the tolerance.',
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
    sentence: `Calibration ${calibration.number} was to be checked again by ${dueOn}: what it promised then, it may not keep. ${claim.sentence}`,
    next: 'Keep a check point with a good reference: if it agrees, the calibration is good for as long again.',
    by: 'check point',
  };
}

/** What a fit said of its constants is not said of a line that was changed since. */
const staleBudget = (moved: number, symbol: string): Claim => ({
  id: 'budget',
  title: 'Error budget inside the tolerance',
  state: 'not shown',
  sentence: Number.isFinite(moved)
    ? `The line, or a reference of a point, was changed since this calibration: at its own points it reads up to ${printSignificant(moved, 2)} ${symbol} other than it did then.`
    : 'The line was changed since this calibration: at one of its own points it gives no number any more.',
  next: 'Put the fit in use anew: the points that are there are worked out with the line as it is now.',
  by: 'true-up',
});

/** What to make smaller, and how where that is known. */
function largestOf({ lines, result }: ReadingBudget): string {
  const at = result.shares.indexOf(Math.max(...result.shares));
  const { title } = lines[at]!;
  const how = title.startsWith('Lag')
    ? ' A shorter filter, a quicker sensor or a slower change in the brief would do.'
    : title.includes('lost on the way')
      ? ' A shorter filter, a quicker sensor or more readings a second would do.'
      : title === 'Beyond the points'
        ? ' Keep points out there.'
        : '';
  return `Make its largest share smaller: ${title.toLowerCase()}, ${printNumber(100 * result.shares[at]!, 0)} %.${how}`;
}

/** Where what is not known of a budget is found out. */
function wayOut(
  unknown: readonly string[],
  isTruedUp: boolean,
  isPicked: boolean,
): Pick<Claim, 'next' | 'by'> {
  if (unknown.length === 1 && unknown[0] === 'Noise of the reading')
    return { next: 'Keep a point: each capture measures the noise.', by: 'true-up' };
  if (unknown.includes('Left over by the fit'))
    return {
      next: 'Keep one more point for the fit: it passes through those that it has, so that nothing judges it.',
      by: 'true-up',
    };
  if (!isPicked)
    return {
      next: 'Pick the sensor: the shelf knows what it is good to by itself, and how it trails.',
      by: 'pick',
    };
  return isTruedUp
    ? { next: 'Put what is known of its sensor on the shelf, as a part of your own.', by: 'shelf' }
    : { next: 'True up against references: nobody has stated what it is worth.', by: 'true-up' };
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
      sentence: 'No calibration is in use.',
      next: 'Keep points near both ends and put a fit in use.',
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
    sentence: `Points from ${printNumber(Math.min(...values), 1)} to ${printNumber(Math.max(...values), 1)} ${symbol} cover ${printNumber(100 * covered, 0)} % of ${printNumber(low, 0)} to ${printNumber(high, 0)} ${symbol}; 80 % are wanted.`,
    next: covered >= 0.8 ? '' : 'Keep a point nearer the uncovered end.',
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
      sentence: `${addsUp ? '' : `${printSignificant(needed)} readings a second are needed; `}${addsUp ? 'T' : 't'}he link is not sending.`,
      next: 'Bring the link up.',
      by: 'link',
    };
  }
  if (addsUp)
    return {
      ...base,
      state: 'pass',
      sentence: `Steps and edges are counted before they are sent: between the ${printSignificant(achievedHz)} readings a second none is lost.`,
      next: '',
      by: null,
    };
  return {
    ...base,
    state: achievedHz >= needed ? 'pass' : 'fail',
    sentence: `${printSignificant(achievedHz)} readings a second arrive; ${printSignificant(needed)} are needed.`,
    next: achievedHz >= needed ? '' : 'Have the board send more often, or allow a slower event in the brief.',
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
      next: 'Keep a point: each capture measures it.',
      by: 'true-up',
    };
  }
  const smoothing = filterTotals(line).noiseGain;
  const spread = 2 * Math.abs(slopeAtRest(line, budget.raw[0]!)) * noise * smoothing;
  return {
    ...base,
    state: spread <= tolerance / 3 ? 'pass' : 'fail',
    sentence: `The shown value wanders by ±${printSignificant(spread, 2)} ${symbol} (2 sd) at the worst place; ±${printSignificant(tolerance / 3, 2)} ${symbol}, a third of the tolerance, is allowed.`,
    next: spread <= tolerance / 3 ? '' : 'Put a slower filter into the line, if the event allows it.',
    by: spread <= tolerance / 3 ? null : 'line',
  };
}
