import type { AlarmSpec } from '../model/face.ts';

export type AlarmState = 'ok' | 'caution' | 'limit' | 'fault';

export interface AlarmMemory {
  readonly state: AlarmState;
  /** When the state was entered, s. */
  readonly sinceS: number;
}

export const QUIET: AlarmMemory = { state: 'ok', sinceS: Number.NEGATIVE_INFINITY };

const RANK: Record<AlarmState, number> = { ok: 0, caution: 1, limit: 2, fault: 3 };

/**
 * One step of a high alarm: rises at once, lets go only below the threshold less the hysteresis and after the minimum
 * time on. A reading that is no number is a fault, at once; leaving a fault judges the reading afresh.
 */
export function stepAlarm(spec: AlarmSpec, memory: AlarmMemory, reading: number, timeS: number): AlarmMemory {
  const wanted = judge(spec, memory.state, reading);
  if (wanted === memory.state) return memory;
  const rises = RANK[wanted] > RANK[memory.state];
  const heldLongEnough = timeS - memory.sinceS >= spec.minimumOnS;
  if (!rises && memory.state !== 'fault' && !heldLongEnough) return memory;
  return { state: wanted, sinceS: timeS };
}

function judge(spec: AlarmSpec, state: AlarmState, reading: number): AlarmState {
  if (!Number.isFinite(reading)) return 'fault';
  const held = (threshold: number, active: boolean) =>
    active ? reading > threshold - spec.hysteresis : reading >= threshold;
  if (held(spec.limit, state === 'limit')) return 'limit';
  if (held(spec.caution, state === 'caution' || state === 'limit')) return 'caution';
  return 'ok';
}

/**
 * Says what is wrong with an alarm's settings; null when they can work.
 * @param low and high ends of the brief's range
 */
export function alarmFault(spec: AlarmSpec, low: number, high: number): string | null {
  if (spec.caution >= spec.limit)
    return `Caution (${spec.caution}) must be below limit (${spec.limit}). Lower caution or raise limit.`;
  if (spec.limit > high || spec.caution < low)
    return `Caution and limit must lie within the brief’s range, ${low} to ${high}.`;
  if (spec.hysteresis >= spec.limit - low)
    return `Hysteresis ${spec.hysteresis} would never let go within the range. Use less than ${spec.limit - low}.`;
  return null;
}
