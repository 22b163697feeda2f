import { format } from 'date-fns';
import { Plus } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { Link, useLocation, useNavigate } from 'react-router';
import type { JudgedStudy } from '@lucky-needle/core/model';
import { studyAbout } from '@lucky-needle/core/plan';
import { STUDIES, type StudyKind } from '@lucky-needle/core/study';
import { useBeginStudyMutation } from '../../../api/studyApi.ts';
import { problemOf } from '../../../api/problemOf.ts';
import { useBench, type ChannelContext } from '../../../app/useBench.ts';
import { ProblemNote } from '../../../parts/ProblemNote.tsx';
import { VerdictBadge } from '../../../parts/VerdictBadge.tsx';
import { StudyPlot } from '../../../parts/StudyPlot.tsx';

/** Studies of one channel, and a way to begin another. */
export function StudiesPanel({ channel }: { channel: ChannelContext }) {
  const { studies } = useBench();
  const { hash, key } = useLocation();
  const asked = hash === '#studies';
  const [turned, setTurned] = useState(false);
  const choosing = asked !== turned;
  const section = useRef<HTMLElement>(null);
  useEffect(() => {
    if (asked) section.current?.scrollIntoView();
  }, [asked, key]);
  const own = studies.filter((s) => s.study.channelId === channel.channel.id);
  return (
    <section ref={section} id="studies" className="mt-4" aria-label="Studies">
      <header className="mb-2 flex flex-wrap items-center gap-3">
        <h2 className="section-title">Studies</h2>
        <p className="muted grow text-sm">
          Evidence that you collect yourself: it is saved, judged and listed among the claims.
        </p>
        <button
          type="button"
          className="btn btn-sm no-print"
          aria-expanded={choosing}
          onClick={() => setTurned(!turned)}
        >
          <Plus className="size-4" aria-hidden /> New study
        </button>
      </header>
      {choosing && <NewStudy channel={channel} />}
      {own.length === 0 && !choosing && (
        <p className="panel muted text-sm">
          No studies yet. A study answers what an uncertainty budget cannot: does the gadget count correctly,
          does it agree with another instrument, does it give everyone the same reading?
        </p>
      )}
      <div className="grid items-start gap-4 lg:grid-cols-2">
        {own.map((judged) => (
          <StudyTile key={judged.study.id} judged={judged} />
        ))}
      </div>
    </section>
  );
}

function StudyTile({ judged: { study, card } }: { judged: JudgedStudy }) {
  const { gadget } = useBench();
  const [plot] = card.plots;
  return (
    <article className="panel grid gap-2" aria-label={study.title}>
      <header className="flex items-center justify-between gap-3">
        <h3 className="text-sm font-semibold">
          {study.title} <span className="muted font-normal">{card.about}</span>
        </h3>
        <VerdictBadge state={card.state} />
      </header>
      {plot && <StudyPlot plot={plot} height={210} />}
      <p className="text-sm">{card.sentence}</p>
      {card.next && <p className="muted text-sm">Next: {card.next}</p>}
      <footer className="muted flex flex-wrap items-center gap-x-3 text-xs">
        <span>{whenAndWho(study)}</span>
        <Link
          className="btn btn-sm ml-auto no-print"
          to={`/g/${gadget.id}/prove/${study.id}?ch=${study.channelId}`}
        >
          Open
        </Link>
      </footer>
    </article>
  );
}

/** When it was last worked on, who did it, where. */
export function whenAndWho({ updatedAt, by, place }: JudgedStudy['study']): string {
  const day = format(new Date(updatedAt), 'd MMM yyyy');
  return [day, by, place].filter(Boolean).join(', ');
}

/** Kinds of study with their questions; of the channel's reading or of one of its figures. */
function NewStudy({ channel }: { channel: ChannelContext }) {
  const { gadget } = useBench();
  const { channel: own } = channel;
  const figures = own.figures ?? [];
  const [figureId, setFigureId] = useState<string | null>(own.shows ?? null);
  const [begin, beginning] = useBeginStudyMutation();
  const navigate = useNavigate();
  /** What a study of this kind would be about: what is chosen where that suits it, or the first thing that does. */
  const aboutFor = (kind: StudyKind): string | null | undefined =>
    (kind.takes === null ? [figureId, null, ...figures.map((f) => f.id)] : [null]).find((id) => {
      const about = studyAbout(gadget, own.id, id);
      return about !== null && kind.suits(about);
    });
  const start = async (kind: StudyKind) => {
    const answer = await begin({
      gadgetId: gadget.id,
      body: { kind: kind.kind, channelId: own.id, figureId: aboutFor(kind) ?? null },
    });
    if ('data' in answer && answer.data)
      void navigate(`/g/${gadget.id}/prove/${answer.data.study.id}?ch=${own.id}`);
  };
  if (!studyAbout(gadget, own.id, null))
    return <p className="panel text-sm">The line has an error: fix it first.</p>;
  const kinds = STUDIES.filter((kind) => aboutFor(kind) !== undefined);
  return (
    <div className="panel mb-4 grid gap-3">
      {figures.length > 0 && (
        <label className="flex flex-wrap items-center gap-2 text-sm">
          About
          <select
            className="select select-sm w-auto"
            value={figureId ?? ''}
            onChange={(e) => setFigureId(e.target.value || null)}
          >
            {figures.map((f) => (
              <option key={f.id} value={f.id}>
                {f.name}
              </option>
            ))}
            <option value="">the reading</option>
          </select>
        </label>
      )}
      <ProblemNote problem={problemOf(beginning.error)} />
      <ul className="grid gap-2 sm:grid-cols-2 xl:grid-cols-3">
        {kinds.map((kind) => (
          <li key={kind.kind} className="flex flex-col gap-1 rounded-box border border-base-300 p-3">
            <h3 className="text-sm font-semibold">{kind.title}</h3>
            <p className="text-sm">{kind.question}</p>
            <p className="muted grow text-xs">
              {kind.needs}
              {aboutFor(kind) !== figureId && (
                <span className="block">
                  About {figures.find((f) => f.id === aboutFor(kind))?.name ?? 'the reading'}.
                </span>
              )}
            </p>
            <button
              type="button"
              className="btn btn-sm self-start"
              disabled={beginning.isLoading}
              aria-label={`Start: ${kind.title}`}
              onClick={() => void start(kind)}
            >
              Start
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}
