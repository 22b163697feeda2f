import { format } from 'date-fns';
import { CalendarPlus } from 'lucide-react';
import { Link } from 'react-router';
import type { DueItem } from '@lucky-needle/core/model';
import { useDueQuery } from '../../api/trueUpApi.ts';
import { problemOf } from '../../api/problemOf.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';

/** So many are told here; the file has all. */
const SHOWN = 6;

/** What is to be checked again, the soonest first: the maker's own references, and every calibration in use. */
export function DueCard() {
  const { data = [], error } = useDueQuery();
  if (data.length === 0 && !error) return null;
  const overdue = data.filter((d) => d.overdue).length;
  return (
    <section className="panel grid gap-2" aria-label="Checks due">
      <h2>Checks due</h2>
      <ProblemNote problem={problemOf(error)} />
      <p className={`text-sm ${overdue > 0 ? 'font-semibold text-warning' : 'muted'}`}>
        {overdue === 0
          ? 'Nothing is overdue.'
          : `⚠ ${overdue} overdue: check ${overdue === 1 ? 'it before relying on the readings that depend on it' : 'them before relying on the readings that depend on them'}.`}
      </p>
      <ol className="grid gap-1.5 text-sm">
        {data.slice(0, SHOWN).map((item) => (
          <li key={`${item.kind}-${item.id}`} className="grid grid-cols-[6.5rem_1fr] gap-2">
            <time
              dateTime={item.dueOn}
              className={`num text-xs leading-5 ${item.overdue ? 'font-semibold text-warning' : 'muted'}`}
            >
              {item.overdue ? '⚠ ' : ''}
              {format(new Date(item.dueOn), 'd MMM yyyy')}
            </time>
            <Link className="min-w-0 hover:underline" to={pathOf(item)} title={item.detail}>
              {item.title}
            </Link>
          </li>
        ))}
      </ol>
      {data.length > SHOWN && <p className="muted text-xs">and {data.length - SHOWN} more later</p>}
      {data.length > 0 && (
        <a className="btn btn-sm justify-self-start" href="/api/due/calendar" download="checks.ics">
          <CalendarPlus className="size-4" aria-hidden /> Download calendar file
        </a>
      )}
    </section>
  );
}

const pathOf = ({ gadgetId, channelId }: DueItem) =>
  gadgetId === null ? '/shelf/references' : `/g/${gadgetId}/true-up?ch=${channelId}`;
