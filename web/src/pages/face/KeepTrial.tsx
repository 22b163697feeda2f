import { nanoid } from '@reduxjs/toolkit';
import { useState } from 'react';
import { Link } from 'react-router';
import type { AlarmRule, AlarmTrialResult, JudgedStudy, Recording, Study } from '@lucky-needle/core/model';
import { alarmInWords } from '@lucky-needle/core/plan';
import { useBeginStudyMutation, useKeepStudyMutation, useStudiesQuery } from '../../api/studyApi.ts';
import { problemOf } from '../../api/problemOf.ts';
import { useBench } from '../../app/useBench.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { VerdictBadge } from '../../parts/VerdictBadge.tsx';

const KIND = 'alarm-tried';
/** What a text of a row may be long. */
const MOST = 80;

interface Props {
  readonly rule: AlarmRule;
  readonly told: AlarmTrialResult;
  readonly run: Recording;
}

/** Keeps what a trial came to as evidence: the alarm's study on the Prove page. */
export function KeepTrial({ rule, told, run }: Props) {
  const { gadget } = useBench();
  const studies = useStudiesQuery(gadget.id);
  const [begin, beginning] = useBeginStudyMutation();
  const [keep, keeping] = useKeepStudyMutation();
  const [kept, setKept] = useState<JudgedStudy | null>(null);
  const own = studies.data?.find(({ study }) => isOf(study, rule))?.study;
  const isKept = kept !== null && own !== undefined;
  const save = async () => {
    const study =
      own ??
      (
        await begin({
          gadgetId: gadget.id,
          body: { kind: KIND, channelId: rule.channelId, figureId: rule.figureId },
        })
      ).data?.study;
    if (!study) return;
    const { rows, title: _title, ...rest } = bodyOf(study);
    const answer = await keep({
      study,
      body: {
        ...rest,
        title: `Alarm test: ${rule.name}`,
        // The same run tried anew takes the place of what was kept of it.
        rows: [
          ...rows.filter((r) => !(isFromRun(r.from, run.id) && isSet(r.values, rule))),
          rowOf(rule, told, run),
        ],
      },
    });
    if (answer.data) setKept(answer.data);
  };
  return (
    <div className="grid gap-2">
      <ProblemNote problem={problemOf(beginning.error ?? keeping.error)} />
      {isKept ? (
        <p className="flex flex-wrap items-center gap-2 text-sm" data-testid="alarm-kept">
          <VerdictBadge state={kept.card.state} /> {kept.card.sentence} {kept.card.next}{' '}
          <Link className="link" to={`/g/${gadget.id}/prove/${kept.study.id}`}>
            Open the study
          </Link>
        </p>
      ) : (
        <button
          type="button"
          className="btn btn-sm justify-self-start"
          disabled={beginning.isLoading || keeping.isLoading || !studies.data}
          onClick={() => void save()}
        >
          Save as evidence
        </button>
      )}
    </div>
  );
}

const isOf = (study: Study, rule: AlarmRule) =>
  study.kind === KIND &&
  study.channelId === rule.channelId &&
  study.figureId === rule.figureId &&
  study.rows.every((r) => r.values['alarm'] === rule.name);

const isFromRun = (from: Study['rows'][number]['from'], id: string) =>
  from.kind === 'run' && from.recordingId === id;

const levelOf = (rule: AlarmRule) => alarmInWords(rule).slice(0, MOST);

const isSet = (values: Study['rows'][number]['values'], rule: AlarmRule) => values['level'] === levelOf(rule);

const bodyOf = ({ title, by, place, settings, rows, stretches }: Study) => ({
  title,
  by,
  place,
  settings,
  stretches,
  rows: rows.map(({ id, values, from, excluded }) => ({ id, values, from, excluded })),
});

const rowOf = (rule: AlarmRule, { own, events, hours }: AlarmTrialResult, run: Recording) => ({
  id: nanoid(),
  from: { kind: 'run' as const, recordingId: run.id },
  excluded: null,
  values: {
    alarm: rule.name,
    level: levelOf(rule),
    was: events,
    caught: own.caught,
    nothing: own.falseAlarms,
    minutes: 60 * hours,
    ...(own.lateS === null ? {} : { late: own.lateS }),
  },
});
