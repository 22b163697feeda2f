import { Link } from 'react-router';
import { outputsOf } from '@lucky-needle/core/alarm';
import type { AlarmLevel, Gadget, GadgetAlarms, NowReading } from '@lucky-needle/core/model';
import { printNumber, printWorth, UNITS } from '@lucky-needle/core/units';
import { useAlarmsNowQuery, useReadingsNowQuery } from '../../api/alarmApi.ts';
import { alike, bigReading } from '../face/bigReading.ts';
import { Lamps } from '../face/Lamps.tsx';
import { WallDisplay } from './WallDisplay.tsx';

/** How often a tile asks, ms. */
const EVERY_MS = 1000;
/** Readings beside the big one that still can be read from afar. */
const ROWS = 3;

const SIGNS: Readonly<Record<AlarmLevel, { sign: string; word: string; tone: string }>> = {
  unknown: { sign: '?', word: 'Unknown', tone: 'border-warning text-warning' },
  quiet: { sign: '✓', word: 'OK', tone: 'border-success text-success' },
  caution: { sign: '!', word: 'Caution', tone: 'border-warning text-warning' },
  limit: { sign: '!!', word: 'Limit', tone: 'border-error text-error' },
};

/** One gadget in figures that can be read from across the room, as the server works them out. */
export function WallTile({ gadget, asDisplay }: { gadget: Gadget; asDisplay: boolean }) {
  const asks = { pollingInterval: EVERY_MS };
  const readings = useReadingsNowQuery(gadget.id, asks);
  const alarms = useAlarmsNowQuery(gadget.id, asks);
  const away = readings.isError || alarms.isError;
  const all = (readings.data?.channels ?? []).map((r) => ({
    ...shownOf(r),
    id: r.channelId,
    name: r.name,
    reason: away ? 'the server is not responding' : (r.reason ?? ''),
  }));
  const first = all[0];
  const which = gadget.face?.bigChannelId ?? (first && alike(all).length > 1 ? 'highest' : first?.id);
  const big = which === undefined ? undefined : (bigReading(all, which) ?? first);
  const others = all.filter((r) => r !== big);
  const rules = gadget.alarms ?? [];
  const told = whichAre(gadget, away ? undefined : alarms.data);
  const { sign, word, tone } = SIGNS[away ? 'unknown' : (alarms.data?.level ?? 'unknown')];
  return (
    <section
      aria-label={gadget.name}
      className={`panel flex min-h-80 flex-col gap-1 overflow-hidden border-l-8 p-0 lg:min-h-0 ${rules.length > 0 ? tone.split(' ')[0] : 'border-base-300'}`}
    >
      <header className="flex items-baseline gap-3 px-4 pt-3">
        <h2 className="min-w-0 grow truncate text-base">
          <Link to={`/g/${gadget.id}/face`}>{gadget.name}</Link>
        </h2>
        {rules.length > 0 && (
          <p role="status" className={`text-sm font-semibold whitespace-nowrap ${tone.split(' ')[1]}`}>
            <span aria-hidden>{sign} </span>
            {word}
          </p>
        )}
      </header>
      {asDisplay ? (
        <div className="min-h-0 grow bg-neutral">
          <WallDisplay gadget={gadget} everyMs={EVERY_MS} />
        </div>
      ) : (
        <div className="flex min-h-0 grow flex-col justify-center px-4 [container-type:size]">
          {big ? (
            <Big {...big} away={away} beside={Math.min(others.length, ROWS)} />
          ) : (
            <p className="muted">No readings yet.</p>
          )}
          <dl className="mt-2 grid text-[clamp(0.875rem,2.2cqw,1.75rem)]">
            {others.slice(0, ROWS).map((r) => (
              <div key={r.id} className="flex items-baseline gap-2">
                <dt className="muted min-w-0 grow truncate">{r.name}</dt>
                <dd className="num whitespace-nowrap">
                  {away || (Number.isNaN(r.value) && r.state === null) ? (
                    <span className="muted">{r.reason}</span>
                  ) : r.state !== null ? (
                    r.state
                  ) : (
                    `${r.text} ${r.symbol}`
                  )}
                </dd>
              </div>
            ))}
          </dl>
          {others.length > ROWS && <p className="muted text-xs">and {others.length - ROWS} more</p>}
        </div>
      )}
      {rules.length > 0 && (
        <footer className="bg-neutral px-4 pb-2 text-neutral-content">
          <Lamps brief outputs={outputsOf(rules, away ? [] : (alarms.data?.items ?? []))} />
          {told && <p className="mt-1 text-center text-sm font-semibold">{told}</p>}
        </footer>
      )}
    </section>
  );
}

type Row = ReturnType<typeof shownOf> & { readonly name: string; readonly reason: string };

function Big({
  name,
  text,
  symbol,
  value,
  worth,
  reason,
  state,
  away,
  beside,
}: Row & { away: boolean; beside: number }) {
  const told = away ? null : state;
  const none = away || Number.isNaN(value);
  const isWord = none || told !== null;
  return (
    <>
      <p className="muted text-[clamp(0.875rem,2.2cqw,1.75rem)]">{name}</p>
      <p
        data-testid="wall-big"
        className={`num leading-none font-semibold ${sizeOf(told !== null ? 'word' : none ? 'reason' : 'figure', beside)}`}
      >
        {told ?? (none ? reason || 'no reading' : text)}
        {!isWord && <span className="ml-[0.18em] text-[0.45em] font-normal">{symbol}</span>}
      </p>
      <p className="muted num mt-1 text-[clamp(0.8rem,2cqw,1.5rem)]">
        {none ? '' : told === null ? worth : `${text} ${symbol}`}
      </p>
    </>
  );
}

/** As large as there is room for: a figure, a word in its place, or why there is none. */
function sizeOf(shown: 'figure' | 'word' | 'reason', beside: number): string {
  if (shown === 'reason') return 'text-[clamp(1.25rem,min(8cqw,18cqh),4rem)] text-warning';
  if (shown === 'word') return 'text-[clamp(1.5rem,min(14cqw,28cqh),8rem)]';
  return beside > 1
    ? 'text-[clamp(2.25rem,min(22cqw,30cqh),14rem)]'
    : 'text-[clamp(2.25rem,min(22cqw,42cqh),14rem)]';
}

/** A reading, or the figure that it is shown by, as texts. */
function shownOf({ value, unit, uncertainty, decimals, state }: NowReading) {
  const symbol = UNITS[unit].symbol;
  return {
    unit,
    value: value ?? Number.NaN,
    state,
    symbol,
    text: value === null ? '' : printNumber(value, decimals),
    worth:
      uncertainty === null
        ? 'uncertainty unknown'
        : uncertainty > 0
          ? `${printWorth(uncertainty, decimals)} ${symbol}`
          : 'exact count',
  };
}

/** The alarms that are on by name, or why they are not known; empty when all is quiet. */
function whichAre({ alarms: rules = [] }: Gadget, alarms: GadgetAlarms | undefined): string {
  const items = alarms?.items ?? [];
  const names = items
    .filter((i) => i.level === 'caution' || i.level === 'limit')
    .map((i) => rules.find((r) => r.id === i.ruleId)?.name ?? i.ruleId);
  if (names.length > 0) return names.join(', ');
  return items.find((i) => i.level === 'unknown')?.reason ?? '';
}
