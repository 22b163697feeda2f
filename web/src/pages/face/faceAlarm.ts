import type { FaceAlarm } from '@lucky-needle/core/face';
import type { AlarmLevel, AlarmNow, AlarmRule } from '@lucky-needle/core/model';

/** What a face tells of all alarms together: how grave it is, and the name of the first that stands so. */
export function faceAlarm(
  rules: readonly AlarmRule[],
  level: AlarmLevel,
  items: readonly AlarmNow[],
): FaceAlarm {
  if (rules.length === 0) return null;
  const first = level === 'unknown' ? undefined : items.find((a) => a.level === level);
  return { level, name: rules.find((r) => r.id === first?.ruleId)?.name ?? '' };
}
