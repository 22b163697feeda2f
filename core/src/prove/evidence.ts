import { fitPoint } from '../calibrate/points.ts';
import { sharedReference } from '../calibrate/sharedReferences.ts';
import { judgeChecks, type CheckJudgement } from '../calibrate/judgeChecks.ts';
import type { CompiledLine } from '../line/compile.ts';
import type { Calibration, CalibrationPoint } from '../model/calibration.ts';
import type { ChannelBrief } from '../model/gadget.ts';
import {
  convertDifference,
  convertUnit,
  isoSeconds,
  printNumber,
  printSignificant,
  UNITS,
} from '../units/index.ts';

/** A check nearer than this share of the brief's range to a point of the fit shows what the fit knows already. */
const APART = 0.05;

/** Days after which a check says nothing of today. */
const OLDEST_DAYS = 365;
/** A reference of the maker's own that was checked longer ago than this when it was read is no reference. */
const REFERENCE_YEARS = 2;
const DAY_S = 86_400;

const ageInDays = (p: CalibrationPoint, atMs: number) => (atMs / 1000 - isoSeconds(p.keptAt)) / DAY_S;

const isOverdue = ({ reference, keptAt }: CalibrationPoint) =>
  reference.kind === 'own' &&
  isoSeconds(keptAt) - isoSeconds(reference.checkedOn) > REFERENCE_YEARS * 365.25 * DAY_S;

/** What points have to say of a calibration, by what it was made of: not by what they are called now. */
export interface Evidence {
  /** Points that the calibration in use has not seen, whatever they were kept for; without one, those kept as checks. */
  readonly checks: readonly CheckJudgement[];
  /** Whether one of them lies away from every point of the fit. */
  readonly reachesBetween: boolean;
  /** Whether one and the same reference stands behind the fit and all checks: what it is wrong by shows in none. */
  readonly isOneReference: boolean;
  /** What a maker should know of the rest, each a sentence. */
  readonly remarks: readonly string[];
  /** Whether a point that was left out by hand contradicts. */
  readonly isContradicted: boolean;
}

export function evidenceOf(
  line: CompiledLine,
  brief: ChannelBrief,
  calibration: Calibration | null,
  points: readonly CalibrationPoint[],
  atMs: number,
): Evidence {
  const unit = line.outputs[0]!.unit;
  const tolerance = convertDifference(brief.tolerance, brief.unit, unit);
  const inFit = (p: CalibrationPoint) => calibration?.pointIds.includes(p.id) ?? false;
  const judge = (list: readonly CalibrationPoint[]) =>
    judgeChecks(
      line,
      // A single raw value is what a point has; a line of several columns is trued up otherwise.
      line.sources.length > 1 ? [] : list.map((p) => fitPoint(p, unit)),
      tolerance,
      unit,
    );
  const counting = points.filter((p) => p.excluded === null);
  const all = counting.filter((p) => (calibration ? !inFit(p) : p.role === 'check'));
  const old = all.filter((p) => ageInDays(p, atMs) > OLDEST_DAYS);
  const overdue = all.filter((p) => !old.includes(p) && isOverdue(p));
  const unseen = all.filter((p) => !old.includes(p) && !overdue.includes(p));
  // One that stands for itself is another at every point.
  const references = new Set([...points.filter(inFit), ...unseen].map((p) => sharedReference(p) ?? p.id));
  const isOneReference = points.some(inFit) && unseen.length > 0 && references.size === 1;
  const renamed = counting.filter((p) => p.role === 'check' && inFit(p)).length;
  const leftOut = points.filter((p) => p.excluded !== null && !inFit(p));
  const against = judge(leftOut).filter((c) => c.verdict.state === 'fail');
  const worth = (p: CalibrationPoint) => convertUnit(p.worth.value, p.worth.unit, unit);
  const width = convertDifference(brief.high - brief.low, brief.unit, unit);
  const fitted = points.filter(inFit).map(worth);
  const symbol = UNITS[unit].symbol;
  return {
    checks: judge(unseen),
    reachesBetween:
      fitted.length === 0 || unseen.some((p) => fitted.every((f) => Math.abs(worth(p) - f) >= APART * width)),
    isOneReference,
    remarks: [
      ...(isOneReference
        ? [
            'The fit and the check points use the same reference, so an error in that reference goes unnoticed.',
          ]
        : []),
      ...old.map(
        (p) =>
          `The check point at ${printNumber(worth(p), 1)} ${symbol} is ${printNumber(ageInDays(p, atMs), 0)} days old; check points expire after ${OLDEST_DAYS} days.`,
      ),
      ...overdue.map(
        (p) =>
          `The reference for the check point at ${printNumber(worth(p), 1)} ${symbol} had not been checked for more than ${REFERENCE_YEARS} years, so this check point is ignored.`,
      ),
      ...(renamed > 0
        ? [
            `${renamed === 1 ? 'One check point was used in the fit itself, so it does not count as a check.' : `${renamed} check points were used in the fit itself, so they do not count as checks.`}`,
          ]
        : []),
      ...against.map((c) => {
        const point = leftOut.find((p) => p.id === c.pointId)!;
        return `Excluded point: at ${printNumber(worth(point), 1)} ${symbol} the reading was ${printSignificant(Math.abs(c.error), 2)} ${symbol} too ${c.error > 0 ? 'high' : 'low'}.`;
      }),
    ],
    isContradicted: against.length > 0,
  };
}
