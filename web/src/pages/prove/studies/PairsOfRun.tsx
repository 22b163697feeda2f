import { useState } from 'react';
import { skipToken } from '@reduxjs/toolkit/query';
import type { Gadget, Recording, Study } from '@lucky-needle/core/model';
import { studyAbout } from '@lucky-needle/core/plan';
import { UNITS } from '@lucky-needle/core/units';
import { useGadgetQuery, useGadgetsQuery } from '../../../api/gadgetApi.ts';
import { problemOf } from '../../../api/problemOf.ts';
import { useRecordingsQuery } from '../../../api/runApi.ts';
import { useStudyPairsMutation } from '../../../api/studyApi.ts';
import { useBench } from '../../../app/useBench.ts';
import { Choice } from '../../../parts/Choice.tsx';
import { NumberField } from '../../../parts/NumberField.tsx';
import { ProblemNote } from '../../../parts/ProblemNote.tsx';
import { isTakable } from './isTakable.ts';
import { RunSelect } from './RunSelect.tsx';

interface Props {
  readonly study: Study;
  readonly onPairs: (pairs: readonly { reference: number; shown: number }[], run: Recording) => void;
}

/** Two channels side by side, as pairs: of one run, or of two gadgets' runs that were made at the same time. */
export function PairsOfRun({ study, onPairs }: Props) {
  const { gadget, recordings } = useBench();
  const [gadgetId, setGadgetId] = useState(gadget.id);
  const [runId, setRunId] = useState('');
  const [channelId, setChannelId] = useState('');
  const [otherRunId, setOtherRunId] = useState('');
  const [everyS, setEveryS] = useState(5);
  const [ask, asking] = useStudyPairsMutation();
  const gadgets = useGadgetsQuery();
  const isOther = gadgetId !== gadget.id;
  const otherGadget = useGadgetQuery(isOther ? gadgetId : skipToken);
  const otherRuns = useRecordingsQuery(isOther ? gadgetId : skipToken);
  const finished = recordings.filter(isTakable);
  if (study.figureId !== null || finished.length === 0) return null;
  const beside = isOther ? otherGadget.data : gadget;
  const channels = beside ? channelsBeside(gadget, study, beside) : [];
  const channel = channels.find((c) => c.id === channelId) ?? channels[0];
  const runs = (otherRuns.data?.items ?? []).filter(isTakable);
  const otherRun = isOther ? otherRunId : runId;
  const take = async () => {
    const run = finished.find((r) => r.id === runId);
    if (!run || !channel || otherRun === '') return;
    const answer = await ask({
      id: study.id,
      body: { recordingId: run.id, other: { recordingId: otherRun, channelId: channel.id }, everyS },
    });
    if ('data' in answer && answer.data) onPairs(answer.data.pairs, run);
  };
  return (
    <div className="no-print grid gap-2">
      <div className="flex flex-wrap items-end gap-2 text-sm">
        <Labelled label="Run with both instruments">
          <RunSelect label="Run with both instruments" runs={finished} value={runId} onChange={setRunId} />
        </Labelled>
        <Choice
          label="Comparison instrument is on"
          value={gadgetId}
          options={(gadgets.data?.items ?? [gadget]).map((g) => [
            g.id,
            g.id === gadget.id ? 'this gadget' : g.name,
          ])}
          onChange={(id) => {
            setGadgetId(id);
            setOtherRunId('');
          }}
        />
        {isOther && (
          <Labelled label="Comparison run">
            <RunSelect label="Comparison run" runs={runs} value={otherRunId} onChange={setOtherRunId} />
          </Labelled>
        )}
        {channels.length > 0 && (
          <Choice
            label="Comparison channel"
            value={channel?.id ?? ''}
            options={channels.map((c) => [c.id, c.name])}
            onChange={setChannelId}
          />
        )}
        <NumberField
          className="w-28"
          label="One pair every"
          unit="s"
          value={everyS}
          onChange={setEveryS}
          check={(v) => (v > 0 ? null : 'Enter a value above 0.')}
        />
        <button
          type="button"
          className="btn btn-sm"
          disabled={runId === '' || otherRun === '' || !channel || asking.isLoading}
          onClick={() => void take()}
        >
          Add pairs
        </button>
      </div>
      {beside && channels.length === 0 && (
        <p className="muted text-sm">No other channel there measures the same quantity.</p>
      )}
      <ProblemNote problem={problemOf(asking.error ?? otherGadget.error ?? otherRuns.error)} />
    </div>
  );
}

/** Channels that read the same quantity as the study's own. */
function channelsBeside(gadget: Gadget, study: Study, beside: Gadget) {
  const about = studyAbout(gadget, study.channelId, null);
  return beside.channels.filter((c) => {
    if (beside.id === gadget.id && c.id === study.channelId) return false;
    const its = studyAbout(beside, c.id, null);
    return its && about && UNITS[its.unit].dimension === UNITS[about.unit].dimension;
  });
}

function Labelled({ label, children }: { readonly label: string; readonly children: React.ReactNode }) {
  return (
    <label className="block">
      <span className="muted mb-1 block text-xs">{label}</span>
      {children}
    </label>
  );
}
