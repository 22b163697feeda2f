import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { BOARDS, DISPLAYS, SENSORS, rankSensors, WEIGHTS, type Candidate } from '@lucky-needle/core/plan';
import { UNITS } from '@lucky-needle/core/units';
import { useBench } from '../../app/useBench.ts';
import { EmptyState } from '../../parts/EmptyState.tsx';
import { PageHead } from '../../parts/PageHead.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { useSaveGadget } from '../../parts/useSaveGadget.ts';
import { CandidateCard } from './CandidateCard.tsx';

/** Candidate sensors judged against the brief, the failed ones below the line with their reason. */
export function PickPage() {
  const { gadget } = useBench();
  const { save, saving, problem } = useSaveGadget(gadget);
  const [reason, setReason] = useState(gadget.pick?.reason ?? '');
  const board = BOARDS.find((b) => b.id === gadget.hookup?.boardId) ?? BOARDS[0]!;
  const display = DISPLAYS.find((d) => d.id === (gadget.hookup?.displayId ?? DISPLAYS[0]!.id)) ?? null;
  const ranked = useMemo<Candidate[]>(
    () =>
      gadget.brief
        ? rankSensors(SENSORS, {
            brief: gadget.brief,
            board,
            channels: gadget.channels.length,
            otherCost: board.price + (display?.price ?? 0),
            sampleRateHz: gadget.sampleRateHz,
          })
        : [],
    [gadget, board, display],
  );
  if (!gadget.brief) {
    return (
      <>
        <PageHead title="Pick" subtitle="Sensors against the brief" />
        <EmptyState title="The brief comes first">
          Without a range, a tolerance and the fastest change there is nothing to judge parts by.{' '}
          <Link className="link link-primary" to="../brief" relative="path">
            Write the brief
          </Link>
        </EmptyState>
      </>
    );
  }
  const { brief } = gadget;
  const good = ranked.filter((c) => !c.failed);
  const failed = ranked.filter((c) => c.failed);
  const choose = (partId: string) => void save({ pick: { partId, reason: reason.trim() } }, 'Pick saved.');
  const card = (candidate: Candidate, rank: number | null) => (
    <CandidateCard
      key={candidate.part.id}
      candidate={candidate}
      rank={rank}
      picked={gadget.pick?.partId === candidate.part.id}
      saving={saving}
      onPick={() => choose(candidate.part.id)}
    />
  );
  return (
    <>
      <PageHead
        title="Pick"
        subtitle={`${brief.quantity}, ${brief.low} to ${brief.high} ${UNITS[brief.unit].symbol}, ±${brief.tolerance}, ${gadget.channels.length} channels on the ${board.title}`}
      />
      <ProblemNote problem={problem} />
      {ranked.length === 0 ? (
        <EmptyState title="No part on the shelf measures this">
          The shelf so far holds temperature sensors. You can still hook up a part of your own and build its
          line.
        </EmptyState>
      ) : (
        <>
          <label className="mb-3 flex flex-wrap items-center gap-3 text-sm">
            <span className="muted">Why this one (kept in the logbook)</span>
            <input
              className="input input-sm min-w-64 grow"
              maxLength={2000}
              value={reason}
              onChange={(e) => setReason(e.target.value)}
              placeholder="Cheap enough for four, and a true-up brings it inside the tolerance"
            />
          </label>
          <div className="grid gap-3">{good.map((c, i) => card(c, i + 1))}</div>
          {failed.length > 0 && (
            <>
              <div className="my-4 flex items-center gap-3" role="separator">
                <span className="h-0.5 grow bg-error/60" />
                <span className="text-sm font-semibold text-error">
                  Below the line: these cannot meet the brief
                </span>
                <span className="h-0.5 grow bg-error/60" />
              </div>
              <div className="grid gap-3">{failed.map((c) => card(c, null))}</div>
            </>
          )}
          <p className="muted mt-4 text-xs">
            Score:{' '}
            {Object.entries(WEIGHTS)
              .map(([check, weight]) => `${check} ×${weight}`)
              .join(', ')}
            ; a pass counts whole, a tight one half.
          </p>
        </>
      )}
    </>
  );
}
