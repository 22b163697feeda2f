import type { FaceReading } from '@lucky-needle/core/face';
import { REASON, REASONS } from '@lucky-needle/core/line';
import { toleranceIn } from '@lucky-needle/core/plan';
import {
  convertDifference,
  convertUnit,
  printNominal,
  printNumber,
  printWorth,
  readingDecimals,
  UNITS,
  type UnitId,
} from '@lucky-needle/core/units';
import type { FaceSource } from './faceSource.ts';
import type { ChannelReading } from './useFaceReadings.ts';

/** A reading as a face shows it: as texts, with states in the place of a number that is not there. */
export function faceReading(
  r: ChannelReading,
  { silent, warming }: Pick<FaceSource, 'silent' | 'warming'>,
): FaceReading {
  const isGood = silent === null && Number.isFinite(r.value);
  const decimals = r.decimals ?? readingDecimals(r.uncertainty, toleranceIn(r.brief, r.unit));
  const { low, high } = r.brief ?? { low: 0, high: 0 };
  const hasRange = hasEnds(r);
  return {
    name: r.name,
    text: isGood && r.state === null ? printNumber(r.value, decimals) : null,
    unit: UNITS[r.unit].symbol,
    worth: r.uncertainty !== null && r.uncertainty > 0 ? printWorth(r.uncertainty, decimals) : '',
    state: silent ?? r.state ?? (isGood ? '' : stateOf(r.reason)),
    detail: !isGood && silent === null && r.reason === REASON.warmingUp ? (warming ?? '') : '',
    share: isGood && hasRange ? (r.value - low) / (high - low) : null,
    ends: hasRange ? [printNominal(low, 4), printNominal(high, 4)] : ['', ''],
    courseDeg: r.isDirection && isGood ? r.value : null,
    history: silent === null ? r.history : [],
  };
}

/** Whether its brief has two ends in its own unit: a needle then has a place between them. */
export const hasEnds = ({ brief, unit }: ChannelReading): boolean =>
  brief !== null && brief.unit === unit && brief.high > brief.low;

/** A reading in another unit of its quantity; as it is where that is another quantity. */
export function inUnit(r: ChannelReading, to: UnitId | null): ChannelReading {
  if (to === null || to === r.unit || UNITS[to].dimension !== UNITS[r.unit].dimension) return r;
  const at = (v: number) => convertUnit(v, r.unit, to);
  const brief =
    r.brief && r.brief.unit === r.unit
      ? {
          ...r.brief,
          unit: to,
          low: at(r.brief.low),
          high: at(r.brief.high),
          tolerance: convertDifference(r.brief.tolerance, r.unit, to),
        }
      : null;
  return {
    ...r,
    unit: to,
    brief,
    value: at(r.value),
    decimals: null,
    uncertainty: r.uncertainty === null ? null : convertDifference(r.uncertainty, r.unit, to),
  };
}

function stateOf(reason: number): string {
  switch (reason) {
    case REASON.warmingUp:
      return 'warming up';
    case REASON.waiting:
    case REASON.ok:
      return 'waiting';
    case REASON.saturatedLow:
      return 'below range';
    case REASON.saturatedHigh:
      return 'above range';
    case REASON.outOfDomain:
      return 'out of range';
    default:
      return REASONS[reason] ?? 'no reading';
  }
}
