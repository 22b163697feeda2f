import type { LinkStatus } from '@lucky-needle/core/model';
import type { Gadget, Link } from '@lucky-needle/core/model';
import { printNominal, printNumber, printSignificant } from '@lucky-needle/core/units';
import { useLiveOf } from '../../live/useLive.ts';
import { counted } from '@lucky-needle/core/words';

type Tone = 'good' | 'odd' | 'plain';

interface Row {
  readonly title: string;
  readonly value: string;
  readonly words: string;
  readonly tone: Tone;
}

/** How well readings come in: each figure with what it means. */
export function HealthCard({ gadget, link }: { gadget: Gadget; link: Link }) {
  const status = useLiveOf((live) => live.status);
  const state = status?.state ?? link.state;
  const rows = status ? rowsOf(status, gadget.sampleRateHz) : [];
  return (
    <section className="panel grid gap-3" aria-label="Link health">
      <header className="flex flex-wrap items-baseline gap-3">
        <h2 className="section-title grow">Link health</h2>
        <span role="status" className={`text-sm ${state === 'up' ? 'text-success' : 'text-error'}`}>
          {state === 'up'
            ? '● receiving readings'
            : state === 'unplugged'
              ? '✕ unplugged'
              : '✕ no readings; will resume automatically'}
        </span>
      </header>
      {status?.problem && (
        <p role="alert" className="rounded-box border border-warning/60 bg-warning/8 p-3 text-sm">
          {status.problem}
        </p>
      )}
      <dl className="grid gap-x-8 gap-y-2 sm:grid-cols-2">
        {rows.map((row) => (
          <div
            key={row.title}
            className="grid grid-cols-[1fr_auto] gap-x-3 border-b border-base-300 pb-2 text-sm"
          >
            <dt>{row.title}</dt>
            <dd className={`num text-right font-semibold ${row.tone === 'odd' ? 'text-warning' : ''}`}>
              {row.value}
            </dd>
            <dd className="muted col-span-2 text-xs">{row.words}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}

function rowsOf(status: LinkStatus, wantedHz: number): Row[] {
  const rate = status.achievedHz;
  const slow = rate > 0 && rate < 0.9 * wantedHz;
  return [
    {
      title: 'Readings per second',
      value: `${printSignificant(rate, 3)} /s`,
      words: slow
        ? `The brief expects ${printNominal(wantedHz, 3)}; changes faster than ${printNominal(rate / 2, 2)} Hz cannot be seen.`
        : `The brief expects ${printNominal(wantedHz, 3)}.`,
      tone: slow ? 'odd' : 'good',
    },
    {
      title: 'Lost readings',
      value: String(status.lost),
      words: 'From sequence numbers if the gadget sends them, otherwise from gaps in its timestamps.',
      tone: status.lost > 0 ? 'odd' : 'good',
    },
    {
      title: 'Duplicate, late',
      value: `${status.duplicated}, ${status.late}`,
      words: 'Dropped: each reading is kept once, in time order.',
      tone: status.late > 0 ? 'odd' : 'plain',
    },
    {
      title: 'Unreadable lines',
      value: String(status.badLines),
      words: status.lastBadLine ?? 'Every line could be read.',
      tone: status.badLines > 0 ? 'odd' : 'good',
    },
    {
      title: 'Gaps',
      value: String(status.gaps),
      words:
        status.gaps === 0
          ? 'No gap longer than 2 s between readings.'
          : `${counted(status.gaps, 'gap')} longer than 2 s between readings.`,
      tone: status.gaps > 0 ? 'odd' : 'good',
    },
    {
      title: 'Stuck columns',
      value: status.stuck.length === 0 ? 'none' : status.stuck.join(', '),
      words:
        status.stuck.length === 0
          ? 'A working sensor varies by a count or so.'
          : 'The same value for 10 s or more: a wire may be loose, or the sensor is not measuring.',
      tone: status.stuck.length > 0 ? 'odd' : 'good',
    },
    ...(status.jitterMs === null
      ? []
      : [
          {
            title: 'Arrival jitter',
            value: `${printNominal(status.jitterMs, 2)} ms`,
            words: 'Readings carry the gadget’s own timestamps, so this does not affect them.',
            tone: 'plain' as const,
          },
        ]),
    ...(status.clockBehindS === null
      ? []
      : [
          {
            title: 'Gadget clock',
            value: `${printNumber(Math.abs(status.clockBehindS), 2)} s ${status.clockBehindS >= 0 ? 'behind' : 'ahead'}`,
            words: 'Compared with the server’s clock, since the link came up.',
            tone: Math.abs(status.clockBehindS) > 1 ? ('odd' as const) : ('plain' as const),
          },
        ]),
  ];
}
