import { format } from 'date-fns';
import { useState } from 'react';
import type { LogEntry } from '@lucky-needle/core/model';
import { useAddNoteMutation, useLogbookQuery } from '../../api/gadgetApi.ts';
import { problemOf } from '../../api/problemOf.ts';
import { useBench } from '../../app/useBench.ts';
import { Loading } from '../../parts/Loading.tsx';
import { PageHead } from '../../parts/PageHead.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { HeaderCard } from './HeaderCard.tsx';

/** What was done, dated; and the code that carries it into the gadget. */
export function LogbookPage() {
  const { gadget } = useBench();
  const { data, error } = useLogbookQuery(gadget.id);
  const [addNote, adding] = useAddNoteMutation();
  const [text, setText] = useState('');
  return (
    <>
      <PageHead title="Logbook" subtitle={data ? `${data.total} entries` : ''} />
      <div className="grid items-start gap-4 xl:grid-cols-[1fr_26rem]">
        <section className="panel min-w-0">
          <form
            className="no-print mb-4 flex gap-2"
            onSubmit={async (e) => {
              e.preventDefault();
              const result = await addNote({ gadgetId: gadget.id, text: text.trim() });
              if (result.data) setText('');
            }}
          >
            <input
              className="input input-sm grow"
              aria-label="Note"
              maxLength={2000}
              placeholder="Write a note: what you saw, what you changed"
              value={text}
              onChange={(e) => setText(e.target.value)}
            />
            <button className="btn btn-primary btn-sm" disabled={text.trim() === '' || adding.isLoading}>
              Add note
            </button>
          </form>
          <ProblemNote problem={problemOf(error ?? adding.error)} />
          {!data && !error && <Loading what="the logbook" />}
          {data && (
            <div className="grid gap-5">
              {byDay(data.items).map(([day, entries]) => (
                <div key={day}>
                  <h2 className="section-title mb-1">{day}</h2>
                  <ol className="grid gap-1.5 border-l-2 border-base-300 pl-4">
                    {entries.map((e) => (
                      <li
                        key={e.id}
                        className="grid grid-cols-[3.2rem_1fr] gap-x-2 text-sm sm:grid-cols-[3.2rem_4.6rem_1fr]"
                      >
                        <time className="num muted" dateTime={e.at}>
                          {format(new Date(e.at), 'HH:mm')}
                        </time>
                        <span className="muted">{e.step}</span>
                        <span className="col-span-2 min-w-0 break-words sm:col-span-1">{e.text}</span>
                      </li>
                    ))}
                  </ol>
                </div>
              ))}
              {data.total > data.items.length && (
                <p className="muted text-sm">
                  Latest {data.items.length} of {data.total} entries.
                </p>
              )}
            </div>
          )}
        </section>
        <HeaderCard gadget={gadget} />
      </div>
    </>
  );
}

function byDay(entries: readonly LogEntry[]): [string, LogEntry[]][] {
  const days = new Map<string, LogEntry[]>();
  for (const entry of entries) {
    const day = format(new Date(entry.at), 'EEEE, d MMMM yyyy');
    days.set(day, [...(days.get(day) ?? []), entry]);
  }
  return [...days];
}
