import type { FaceContent, FaceReading } from '@lucky-needle/core/face';
import { REASON, REASONS } from '@lucky-needle/core/line';
import type { AlarmRule, FaceLook, GadgetAlarms } from '@lucky-needle/core/model';
import { toleranceIn } from '@lucky-needle/core/plan';
import {
  printNominal,
  printNumber,
  printSignificant,
  readingDecimals,
  UNITS,
} from '@lucky-needle/core/units';
import type { ChannelReading } from './useFaceReadings.ts';

/** What is known of the gadget beside its readings. */
interface Around {
  /** Why nothing is heard; null while it is. */
  readonly silent: string | null;
  /** How long parts still warm up, as minutes and seconds; null when they are warm. */
  readonly warming: string | null;
  readonly rules: readonly AlarmRule[];
  readonly alarms: GadgetAlarms | null;
  readonly look: FaceLook;
}

/** Readings and alarms as a face shows them: as texts, with states in the place of numbers that are not there. */
export function faceContentOf(
  readings: readonly ChannelReading[],
  bigId: string | undefined,
  { silent, warming, rules, alarms, look }: Around,
): FaceContent {
  const items = alarms?.items ?? [];
  const level = silent === null ? (alarms?.level ?? 'unknown') : 'unknown';
  const gravest = items.find((a) => a.level === level);
  return {
    readings: readings.map((r) => faceReading(r, silent, warming)),
    big: Math.max(
      0,
      readings.findIndex((r) => r.id === bigId),
    ),
    alarm:
      rules.length === 0
        ? null
        : { level, name: rules.find((r) => r.id === gravest?.ruleId && level !== 'unknown')?.name ?? '' },
    look,
  };
}

function faceReading(r: ChannelReading, silent: string | null, warming: string | null): FaceReading {
  const isGood = silent === null && Number.isFinite(r.value);
  const decimals = readingDecimals(r.uncertainty, toleranceIn(r.brief, r.unit));
  const { low, high } = r.brief ?? { low: 0, high: 0 };
  const hasRange = r.brief !== null && r.brief.unit === r.unit && high > low;
  return {
    name: r.name,
    text: isGood ? printNumber(r.value, decimals) : null,
    unit: UNITS[r.unit].symbol,
    worth: r.uncertainty !== null && r.uncertainty > 0 ? `±${printSignificant(r.uncertainty, 2)}` : '',
    state: isGood ? '' : (silent ?? stateOf(r.reason)),
    detail: !isGood && silent === null && r.reason === REASON.warmingUp ? (warming ?? '') : '',
    share: isGood && hasRange ? (r.value - low) / (high - low) : null,
    ends: hasRange ? [printNominal(low, 4), printNominal(high, 4)] : ['', ''],
    courseDeg: r.isDirection && isGood ? r.value : null,
    history: silent === null ? r.history : [],
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
      return 'below its range';
    case REASON.saturatedHigh:
      return 'above its range';
    case REASON.outOfDomain:
      return 'out of range';
    default:
      return REASONS[reason] ?? 'no reading';
  }
}
