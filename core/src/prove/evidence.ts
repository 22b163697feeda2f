import { fitPoint } from '../calibrate/points.ts';
import { judgeChecks, type CheckJudgement } from '../calibrate/judgeChecks.ts';
import type { CompiledLine } from '../line/compile.ts';
import type { Calibration, CalibrationPoint } from '../model/calibration.ts';
import type { ChannelBrief } from '../model/gadget.ts';
import { convertDifference, convertUnit, printNumber, printSignificant, UNITS } from '../units/index.ts';

/** A check nearer than this share of the brief's range to a point of the fit shows what the fit knows already. */
const APART = 0.05;

/** What points have to say of a calibration, by what it was made of: not by what they are called now. */
export interface Evidence {
  /** Points that the calibration in use has not seen, whatever they were kept for; without one, those kept as checks. */
  readonly checks: readonly CheckJudgement[];
  /** Whether one of them lies away from every point of the fit. */
  readonly reachesBetween: boolean;
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
  const unseen = counting.filter((p) => (calibration ? !inFit(p) : p.role === 'check'));
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
    remarks: [
      ...(renamed > 0
        ? [
            `${renamed === 1 ? 'One point that is called a check was' : `${renamed} points that are called checks were`} in the fit itself, so it counts as none.`,
          ]
        : []),
      ...against.map((c) => {
        const point = leftOut.find((p) => p.id === c.pointId)!;
        return `Left out by hand: at ${printNumber(worth(point), 1)} ${symbol} it read ${printSignificant(Math.abs(c.error), 2)} ${symbol} ${c.error > 0 ? 'high' : 'low'}.`;
      }),
    ],
    isContradicted: against.length > 0,
  };
}
