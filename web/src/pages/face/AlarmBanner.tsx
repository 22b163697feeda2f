import { format } from 'date-fns';
import type { AlarmState } from '@lucky-needle/core/face';
import type { AlarmSpec } from '@lucky-needle/core/model';
import { printNumber } from '@lucky-needle/core/units';
import type { AlarmEvent } from './useAlarm.ts';

const LOOK: Record<AlarmState, { sign: string; title: string; tone: string }> = {
  ok: { sign: '✓', title: 'Quiet', tone: 'border-success text-success' },
  caution: { sign: '!', title: 'Caution', tone: 'border-warning text-warning' },
  limit: { sign: '!!', title: 'Limit: sounder on', tone: 'border-error text-error' },
  fault: { sign: '?', title: 'Fault: no reading to trust', tone: 'border-error text-error' },
};

/** The alarm as it stands, why, and when it last changed. */
export function AlarmBanner({
  state,
  history,
  spec,
  value,
  symbol,
}: {
  state: AlarmState;
  history: readonly AlarmEvent[];
  spec: AlarmSpec;
  value: number;
  symbol: string;
}) {
  const look = LOOK[state];
  const reach = (v: number) => `${printNumber(v, 1)} ${symbol}`;
  const why: Record<AlarmState, string> = {
    ok: `${reach(value)}; caution starts at ${reach(spec.caution)}.`,
    caution: `Caution since ${reach(spec.caution)} was reached; lets go below ${reach(spec.caution - spec.hysteresis)}.`,
    limit: `Limit since ${reach(spec.limit)} was reached; lets go below ${reach(spec.limit - spec.hysteresis)}.`,
    fault: 'A probe gives no number, or the link is silent. Check probe, wiring and cable.',
  };
  return (
    <section className={`panel border-l-8 ${look.tone}`} aria-label="Alarm">
      <p role="status" data-testid="alarm" data-state={state} className="text-lg font-semibold">
        <span aria-hidden>{look.sign} </span>
        {look.title}
      </p>
      <p className="text-sm text-base-content">{why[state]}</p>
      {history.length > 0 && (
        <ol className="num muted mt-2 text-xs">
          {history.map((h) => (
            <li key={`${h.at}${h.state}`}>
              {format(h.at, 'HH:mm:ss')} {LOOK[h.state].title.split(':')[0]!.toLowerCase()}
            </li>
          ))}
        </ol>
      )}
    </section>
  );
}
