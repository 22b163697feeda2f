import { alarmInWords } from '@lucky-needle/core/plan';
import type { AlarmRule, GadgetAlarms } from '@lucky-needle/core/model';
import { printSignificant, UNITS } from '@lucky-needle/core/units';
import { useSeeAlarmMutation } from '../../api/alarmApi.ts';
import { ALARM_WORDS, upperFirst } from '@lucky-needle/core/words';

interface Props {
  readonly gadgetId: string;
  readonly rules: readonly AlarmRule[];
  readonly alarms: GadgetAlarms | null;
  readonly unknown: string | null;
  readonly editing: string | null;
  onEdit(ruleId: string): void;
}

const LOOK = {
  unknown: { sign: '?', tone: 'text-warning' },
  quiet: { sign: '✓', tone: 'text-success' },
  caution: { sign: '!', tone: 'text-warning' },
  limit: { sign: '!!', tone: 'text-error' },
} as const;

/** Every alarm with how it stands, what it looked at last, and why its levels stand where they do. */
export function AlarmList({ gadgetId, rules, alarms, unknown, editing, onEdit }: Props) {
  const [see, { isLoading }] = useSeeAlarmMutation();
  return (
    <ul className="grid gap-2" aria-label="Alarms">
      {rules.map((rule) => {
        const now = unknown === null ? alarms?.items.find((a) => a.ruleId === rule.id) : undefined;
        const level = now?.level ?? 'unknown';
        const { sign, tone } = LOOK[level];
        const isOn = level === 'caution' || level === 'limit';
        return (
          <li key={rule.id} className="panel grid gap-1 py-3" data-state={level}>
            <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
              <span className={`w-24 shrink-0 text-sm font-semibold ${tone}`}>
                <span aria-hidden>{sign} </span>
                {ALARM_WORDS[level]}
              </span>
              <span className="font-semibold">{rule.name}</span>
              <span className="num muted grow text-sm">{valueOf(rule, now?.value ?? null)}</span>
              {isOn && (!now!.isSeen || now!.isHeld) && (
                <button
                  type="button"
                  className="btn btn-xs"
                  disabled={isLoading}
                  onClick={() => void see({ gadgetId, ruleId: rule.id })}
                >
                  Acknowledge
                </button>
              )}
              <button
                type="button"
                className="btn btn-ghost btn-xs"
                aria-expanded={editing === rule.id}
                aria-label={`Edit ${rule.name}`}
                onClick={() => onEdit(rule.id)}
              >
                Edit
              </button>
            </div>
            <p className="muted text-sm">
              {upperFirst(alarmInWords(rule))}
              {rule.m > 1 && `, in ${rule.n} of ${rule.m} readings`}
              {rule.latch && ', stays on until acknowledged'}.
              {now?.isHeld && ' The condition has cleared; waiting to be acknowledged.'}
              {level === 'unknown' && ` ${unknown ?? `${upperFirst(now?.reason || 'no readings yet')}.`}`}
              {isOn && now?.reason && ` ${upperFirst(now.reason)}.`}
            </p>
            {rule.why && <p className="muted text-xs">{rule.why}</p>}
          </li>
        );
      })}
    </ul>
  );
}

function valueOf(rule: AlarmRule, value: number | null): string {
  if (value === null || rule.kind === 'fault') return '';
  if (rule.kind === 'silent') return value > 0 ? `${value.toFixed(0)} s without readings` : '';
  return `${printSignificant(value, 3)} ${UNITS[rule.unit].symbol}`.trim();
}
