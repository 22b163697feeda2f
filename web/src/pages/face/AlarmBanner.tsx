import { isSounding } from '@lucky-needle/core/alarm';
import type { AlarmRule, GadgetAlarms } from '@lucky-needle/core/model';
import { useSilenceAlarmsMutation } from '../../api/alarmApi.ts';
import { upperFirst } from '@lucky-needle/core/words';

interface Props {
  readonly gadgetId: string;
  readonly rules: readonly AlarmRule[];
  /** As the server has them; null while nothing is known of them. */
  readonly alarms: GadgetAlarms | null;
  /** Why nothing is known of any, in words; null when the server tells. */
  readonly unknown: string | null;
}

/** How long the sounders are silenced for. */
const SILENCE_S = 300;

const LOOK = {
  none: { sign: '–', tone: 'border-base-300' },
  unknown: { sign: '?', tone: 'border-warning text-warning' },
  quiet: { sign: '✓', tone: 'border-success text-success' },
  caution: { sign: '!', tone: 'border-warning text-warning' },
  limit: { sign: '!!', tone: 'border-error text-error' },
} as const;

/** All alarms together: the gravest, what it says, and whether it sounds. */
export function AlarmBanner({ gadgetId, rules, alarms, unknown }: Props) {
  const [silence, { isLoading }] = useSilenceAlarmsMutation();
  const level = rules.length === 0 ? 'none' : unknown !== null ? 'unknown' : (alarms?.level ?? 'unknown');
  const { sign, tone } = LOOK[level];
  const on = (alarms?.items ?? []).flatMap((now) => {
    const rule = rules.find((r) => r.id === now.ruleId);
    return rule && now.level === level ? [{ rule, now }] : [];
  });
  const sounding = on.filter(({ rule, now }) => isSounding(rule, now));
  return (
    <section className={`panel border-l-8 ${tone}`} aria-label="All alarms">
      <div className="flex flex-wrap items-center gap-3">
        <p role="status" data-testid="alarm" data-state={level} className="grow text-lg font-semibold">
          <span aria-hidden>{sign} </span>
          {titleOf(
            level,
            on.map(({ rule }) => rule.name),
          )}
        </p>
        {sounding.length > 0 && (
          <button
            type="button"
            className="btn btn-sm"
            disabled={isLoading}
            onClick={() => void silence({ gadgetId, seconds: SILENCE_S })}
          >
            Silence for {SILENCE_S / 60} min
          </button>
        )}
      </div>
      <p className="text-sm text-base-content">
        {level === 'none'
          ? 'No alarm is set up for this gadget yet.'
          : level === 'unknown'
            ? (unknown ?? reasonsOf(on.map(({ now }) => now.reason)))
            : level === 'quiet'
              ? `The server checks ${rules.length === 1 ? 'the alarm' : `all ${rules.length} alarms`} on every reading, also while no page is open.`
              : sounding.length > 0
                ? 'The sounder is on.'
                : on.every(({ now }) => now.silencedS > 0 || now.isSeen)
                  ? 'Acknowledged or silenced.'
                  : 'No sounder is assigned.'}
      </p>
    </section>
  );
}

function titleOf(level: keyof typeof LOOK, names: readonly string[]): string {
  const named =
    names.length > 2 ? `${names.slice(0, 2).join(', ')} and ${names.length - 2} more` : names.join(', ');
  switch (level) {
    case 'none':
      return 'No alarms set';
    case 'unknown':
      return named ? `Status unknown: ${named}` : 'Status unknown';
    case 'quiet':
      return 'No active alarms';
    case 'caution':
      return `Caution: ${named}`;
    case 'limit':
      return `Limit: ${named}`;
  }
}

const reasonsOf = (reasons: readonly string[]) => {
  const told = [...new Set(reasons.filter(Boolean))];
  return told.length > 0 ? `${upperFirst(told.join('; '))}.` : 'No readings yet.';
};
