import type { AlarmNow, AlarmRule } from '../model/alarm.ts';

/** A lamp flashes until somebody has seen what it tells. */
export type LampState = 'off' | 'on' | 'flashing';

/** What the alarms of a gadget drive. */
export interface AlarmOutputs {
  /** Green says that everything is known and quiet. Null for a lamp that no alarm has. */
  readonly lamps: Readonly<Record<'green' | 'amber' | 'red', LampState | null>>;
  readonly sounder: 'none' | 'beeps' | 'steady';
}

/** Whether its sounder is to be heard now. */
export const isSounding = (rule: AlarmRule, now: AlarmNow): boolean =>
  rule.sounder !== 'none' && isOn(now) && !now.isSeen && now.silencedS <= 0;

/** Lamps and sounder for how the alarms stand: at caution amber, at the limit the alarm's own lamp. */
export function outputsOf(rules: readonly AlarmRule[], items: readonly AlarmNow[]): AlarmOutputs {
  const all = rules.map((rule) => ({ rule, now: items.find((i) => i.ruleId === rule.id) ?? null }));
  const lampOf = ({ rule, now }: (typeof all)[number]) =>
    rule.lamp === 'none' || !now || !isOn(now) ? 'none' : now.level === 'limit' ? rule.lamp : 'amber';
  const lit = (lamp: 'amber' | 'red'): LampState | null => {
    const has = rules.some(
      (r) => r.lamp === lamp || (lamp === 'amber' && r.lamp !== 'none' && r.caution !== null),
    );
    if (!has) return null;
    const on = all.filter((a) => lampOf(a) === lamp);
    return on.length === 0 ? 'off' : on.some(({ now }) => !now!.isSeen) ? 'flashing' : 'on';
  };
  const isQuiet = all.every(({ now }) => now?.level === 'quiet');
  const hasLamp = rules.some((r) => r.lamp !== 'none');
  const sounding = all
    .filter(({ rule, now }) => now && isSounding(rule, now))
    .map(({ rule }) => rule.sounder);
  return {
    lamps: { green: hasLamp ? (isQuiet ? 'on' : 'off') : null, amber: lit('amber'), red: lit('red') },
    sounder: sounding.includes('steady') ? 'steady' : sounding.length > 0 ? 'beeps' : 'none',
  };
}

/** The page of the face that alarms ask for, from 0: that of the gravest that is on and not seen; null for none. */
export function pageAsked(rules: readonly AlarmRule[], items: readonly AlarmNow[]): number | null {
  const asking = rules.flatMap((rule) => {
    const now = items.find((i) => i.ruleId === rule.id);
    return rule.page && now && isOn(now) && !now.isSeen ? [{ page: rule.page - 1, level: now.level }] : [];
  });
  return (asking.find((a) => a.level === 'limit') ?? asking[0])?.page ?? null;
}

const isOn = ({ level }: AlarmNow) => level === 'caution' || level === 'limit';
