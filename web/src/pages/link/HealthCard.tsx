import type { LinkStatus } from '@lucky-needle/core/model';
import type { Gadget, Link } from '@lucky-needle/core/model';
import { printNominal, printNumber, printSignificant } from '@lucky-needle/core/units';
import { useLiveOf } from '../../live/useLive.ts';

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
            ? '● readings come in'
            : state === 'unplugged'
              ? '✕ unplugged'
              : '✕ no readings; they go on as soon as they come'}
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
  const plural = (n: number, one: string, many: string) => `${n} ${n === 1 ? one : many}`;
  return [
    {
      title: 'Readings a second',
      value: `${printSignificant(rate, 3)} /s`,
      words: slow
        ? `The brief counts on ${printNominal(wantedHz, 3)}; what changes faster than ${printNominal(rate / 2, 2)} times a second is not seen.`
        : `The brief counts on ${printNominal(wantedHz, 3)}.`,
      tone: slow ? 'odd' : 'good',
    },
    {
      title: 'Lost on the way',
      value: String(status.lost),
      words: 'By their numbers where the gadget counts them, else by gaps in its time.',
      tone: status.lost > 0 ? 'odd' : 'good',
    },
    {
      title: 'Duplicate or late',
      value: `${status.duplicated}, ${status.late}`,
      words: 'Dropped: a reading stands once, and in its place.',
      tone: status.late > 0 ? 'odd' : 'plain',
    },
    {
      title: 'Lines unread',
      value: String(status.badLines),
      words: status.lastBadLine ? `The last: ${status.lastBadLine}` : 'Every line was understood.',
      tone: status.badLines > 0 ? 'odd' : 'good',
    },
    {
      title: 'Silences',
      value: String(status.gaps),
      words:
        status.gaps === 0
          ? 'Never more than 2 s without a reading.'
          : `${plural(status.gaps, 'time', 'times')} nothing came for more than 2 s, and then came again.`,
      tone: status.gaps > 0 ? 'odd' : 'good',
    },
    {
      title: 'Stuck columns',
      value: status.stuck.length === 0 ? 'none' : status.stuck.join(', '),
      words:
        status.stuck.length === 0
          ? 'A working sensor flickers by a count or so.'
          : 'One and the same number for 10 s and more: a wire is off, or nothing is measured.',
      tone: status.stuck.length > 0 ? 'odd' : 'good',
    },
    ...(status.jitterMs === null
      ? []
      : [
          {
            title: 'Unevenness of arrival',
            value: `${printNominal(status.jitterMs, 2)} ms`,
            words: 'Readings carry the gadget’s own time, so this does no harm to them.',
            tone: 'plain' as const,
          },
        ]),
    ...(status.clockBehindS === null
      ? []
      : [
          {
            title: 'Gadget’s clock',
            value: `${printNumber(Math.abs(status.clockBehindS), 2)} s ${status.clockBehindS >= 0 ? 'behind' : 'ahead'}`,
            words: 'Since the link came up, against the clock of this bench.',
            tone: Math.abs(status.clockBehindS) > 1 ? ('odd' as const) : ('plain' as const),
          },
        ]),
  ];
}
