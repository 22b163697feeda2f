import { Printer, Trash2 } from 'lucide-react';
import { nanoid } from '@reduxjs/toolkit';
import { Link, useNavigate, useParams } from 'react-router';
import type { JudgedStudy, Recording, StudyBody, StudySource } from '@lucky-needle/core/model';
import { studyKindOf, type StudyKind } from '@lucky-needle/core/study';
import { useDeleteStudyMutation, useKeepStudyMutation, useStudiesQuery } from '../../../api/studyApi.ts';
import { problemOf } from '../../../api/problemOf.ts';
import { useAppDispatch } from '../../../app/store.ts';
import { toastShown } from '../../../app/toasts.ts';
import { useBench, useChannel, type ChannelContext } from '../../../app/useBench.ts';
import { ChannelStrip } from '../../../parts/ChannelStrip.tsx';
import { EmptyState } from '../../../parts/EmptyState.tsx';
import { Loading } from '../../../parts/Loading.tsx';
import { PageHead } from '../../../parts/PageHead.tsx';
import { ProblemNote } from '../../../parts/ProblemNote.tsx';
import { VerdictBadge } from '../../../parts/VerdictBadge.tsx';
import { EvidenceTable } from './EvidenceTable.tsx';
import { ResultOfRun } from './ResultOfRun.tsx';
import { PairsOfRun } from './PairsOfRun.tsx';
import { RowForm } from './RowForm.tsx';
import { whenAndWho } from './StudiesPanel.tsx';
import { StretchForm } from './StretchForm.tsx';
import { StudyPlot } from '../../../parts/StudyPlot.tsx';
import { StudySettings } from './StudySettings.tsx';
import { StudyTold } from './StudyTold.tsx';
import { useBeside, useShownNow } from './useShownNow.ts';

/** One study: what it comes to, its plots, and its evidence with ways to gather more. */
export function StudyPage() {
  const { studyId } = useParams();
  const bench = useBench();
  const { isLoading, error } = useStudiesQuery(bench.gadget.id);
  const judged = bench.studies.find((s) => s.study.id === studyId);
  const channel = useChannel(bench, judged?.study.channelId);
  const back = `/g/${bench.gadget.id}/prove?ch=${channel.channel.id}`;
  if (judged) return <StudyOf judged={judged} channel={channel} back={back} />;
  return (
    <>
      <PageHead title="Study" />
      {isLoading ? (
        <Loading what="the study" />
      ) : error ? (
        <ProblemNote problem={problemOf(error)} />
      ) : (
        <EmptyState title="Study not found">
          It may have been deleted.{' '}
          <Link className="link link-primary" to={back}>
            Go to Prove
          </Link>
        </EmptyState>
      )}
    </>
  );
}

const bodyOf = ({ study }: JudgedStudy): StudyBody => ({
  title: study.title,
  by: study.by,
  place: study.place,
  settings: study.settings,
  rows: study.rows.map(({ id, values, from, excluded }) => ({ id, values, from, excluded })),
  stretches: study.stretches,
});

function StudyOf({ judged, channel, back }: { judged: JudgedStudy; channel: ChannelContext; back: string }) {
  const { study, card } = judged;
  const { gadget } = useBench();
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const [keep, keeping] = useKeepStudyMutation();
  const [remove] = useDeleteStudyMutation();
  const kind = studyKindOf(study.kind);
  const change = async (part: Partial<StudyBody>): Promise<boolean> => {
    const answer = await keep({ study, body: { ...bodyOf(judged), ...part } });
    return 'data' in answer && answer.data !== undefined;
  };
  const forget = async () => {
    const answer = await remove(study.id);
    if ('error' in answer && answer.error) return;
    dispatch(toastShown({ text: `Deleted “${study.title}”.`, tone: 'done', restoreStudyId: study.id }));
    void navigate(back);
  };
  return (
    <>
      <PageHead title={study.title} subtitle={card.about}>
        <span className="print-only text-sm">{gadget.name}</span>
        <Link className="btn btn-ghost btn-sm no-print" to={back}>
          Back to Prove
        </Link>
        <button type="button" className="btn btn-sm no-print" onClick={() => window.print()}>
          <Printer className="size-4" aria-hidden /> Print
        </button>
        <button type="button" className="btn btn-ghost btn-sm no-print" onClick={() => void forget()}>
          <Trash2 className="size-4" aria-hidden /> Delete
        </button>
      </PageHead>
      <div className="no-print">
        <ChannelStrip channel={channel} />
      </div>
      <section className="panel mb-4 grid gap-2" aria-label="Conclusion">
        <div className="flex items-start justify-between gap-3">
          <p className="font-semibold">{card.sentence}</p>
          <VerdictBadge state={card.state} />
        </div>
        {card.next && (
          <p className="text-sm">
            <span className="font-semibold">Next:</span> {card.next}
          </p>
        )}
        <p className="muted text-xs">
          {kind?.question} {whenAndWho(study)}
        </p>
      </section>
      <ProblemNote problem={problemOf(keeping.error)} />
      <div className="grid items-start gap-4 xl:grid-cols-[1.15fr_1fr]">
        <div className="grid gap-4">
          {card.plots.map((plot) => (
            <section key={plot.title} className="panel">
              <StudyPlot plot={plot} />
            </section>
          ))}
          {card.facts.length > 0 && (
            <section className="panel">
              <h2>Key values</h2>
              <dl className="mt-2 grid gap-x-4 gap-y-1 text-sm sm:grid-cols-[minmax(9rem,auto)_1fr]">
                {card.facts.map(({ title, text }) => (
                  <div key={title} className="contents">
                    <dt className="muted">{title}</dt>
                    <dd className="mb-1 sm:mb-0">{text}</dd>
                  </div>
                ))}
              </dl>
            </section>
          )}
        </div>
        {kind && (
          <div className="grid gap-4">
            <section className="panel grid gap-3">
              <h2>Evidence</h2>
              <p className="muted text-sm">{kind.needs}</p>
              {kind.takes === null ? (
                <Rows
                  judged={judged}
                  kind={kind}
                  channel={channel}
                  busy={keeping.isLoading}
                  change={change}
                />
              ) : (
                <StretchForm
                  stretches={study.stretches}
                  busy={keeping.isLoading}
                  onChange={(stretches) => void change({ stretches: [...stretches] })}
                />
              )}
            </section>
            <StudyTold study={study} kind={kind} unit={card.unit} />
            <section className="panel no-print grid gap-3">
              <h2>Study settings</h2>
              <StudySettings
                study={study}
                kind={kind}
                unit={card.unit}
                busy={keeping.isLoading}
                onKeep={(told) => void change(told)}
              />
            </section>
          </div>
        )}
      </div>
    </>
  );
}

interface RowsProps {
  readonly judged: JudgedStudy;
  readonly kind: StudyKind;
  readonly channel: ChannelContext;
  readonly busy: boolean;
  change(part: Partial<StudyBody>): Promise<boolean>;
}

/** Rows of a study, and the ways to get more: typed, from the gadget, from runs. */
function Rows({ judged, kind, channel, busy, change }: RowsProps) {
  const { gadget, recordings } = useBench();
  const { study, card } = judged;
  const shown = useShownNow(study, channel, gadget.sampleRateHz);
  const beside = useBeside(card.unit, channel);
  const rows = bodyOf(judged).rows;
  const add = (values: Readonly<Record<string, number | string>>[], from: StudySource) =>
    change({ rows: [...rows, ...values.map((v) => ({ id: nanoid(), values: v, from, excluded: null }))] });
  const fromRun = (run: Recording): StudySource => ({ kind: 'run', recordingId: run.id });
  const reads = kind.columns.find((c) => c.holds === 'shown');
  return (
    <>
      <RowForm
        kind={kind}
        unit={card.unit}
        shown={shown}
        beside={beside}
        busy={busy}
        {...(reads
          ? {
              resultOfRun: (take: (value: number, run: Recording) => void) => (
                <ResultOfRun study={study} onTaken={take} />
              ),
            }
          : {})}
        onKeep={({ values, from }) => add([{ ...values }], from)}
      />
      {study.kind === 'agreement' && (
        <PairsOfRun
          study={study}
          onPairs={(pairs, run) =>
            void add(
              pairs.map(({ reference, shown: own }) => ({ reference, shown: own })),
              fromRun(run),
            )
          }
        />
      )}
      {study.rows.length > 0 && (
        <EvidenceTable
          kind={kind}
          unit={card.unit}
          worth={shown.decimals}
          rows={study.rows}
          stale={card.stale}
          runName={(id) => recordings.find((r) => r.id === id)?.name ?? 'deleted run'}
          busy={busy}
          onExclude={(id, excluded) =>
            void change({ rows: rows.map((r) => (r.id === id ? { ...r, excluded } : r)) })
          }
          onRemove={(id) => void change({ rows: rows.filter((r) => r.id !== id) })}
        />
      )}
    </>
  );
}
