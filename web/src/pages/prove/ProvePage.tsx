import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import {
  allClaims,
  channelProof,
  claimsBeside,
  gadgetProof,
  readingUnit,
  sensorOf,
  toleranceIn,
} from '@lucky-needle/core/plan';
import { proofSummary } from '@lucky-needle/core/prove';
import { UNITS } from '@lucky-needle/core/units';
import { useBench, useChannel } from '../../app/useBench.ts';
import { useShelf } from '../../app/useShelf.ts';
import { useLiveOf } from '../../live/useLive.ts';
import { useSeenRows } from '../../live/useSeenRows.ts';
import { ChannelStrip } from '../../parts/ChannelStrip.tsx';
import { EmptyState } from '../../parts/EmptyState.tsx';
import { PageHead } from '../../parts/PageHead.tsx';
import { BudgetTable } from './BudgetTable.tsx';
import { claimHref, ClaimsPanel, WHERE } from './ClaimsPanel.tsx';
import { StudiesPanel } from './studies/StudiesPanel.tsx';

/** Whether the channel keeps its brief's promise: claims with their state, and where the error comes from. */
export function ProvePage() {
  const bench = useBench();
  const { gadget } = bench;
  const channel = useChannel(bench);
  const status = useLiveOf((live) => live.status);
  // Whole readings a second, so that the page does not work everything out anew at every flicker of the rate.
  const achievedHz = status?.state === 'up' ? Math.round(status.achievedHz * 10) / 10 : null;
  const seen = useSeenRows(gadget.id);
  const shelf = useShelf();
  const [openedMs] = useState(Date.now);
  const { brief, line, calibration, points } = channel;
  const proof = useMemo(
    () =>
      channelProof({
        channelId: channel.channel.id,
        sampleRateHz: gadget.sampleRateHz,
        line,
        brief,
        calibration,
        points,
        achievedHz,
        seen,
        sensor: sensorOf(gadget, channel.channel, shelf),
        atMs: openedMs,
      }),
    [gadget, channel.channel, brief, line, calibration, points, achievedHz, seen, shelf, openedMs],
  );
  const whole = useMemo(
    () =>
      gadgetProof(gadget, bench.calibrations, bench.points, achievedHz, seen, bench.studies, shelf, openedMs),
    [gadget, bench.calibrations, bench.points, achievedHz, seen, bench.studies, shelf, openedMs],
  );
  const beside = claimsBeside(gadget, bench.studies, seen, achievedHz, bench.calibrations, shelf)
    .filter((s) => s.channelId === channel.channel.id)
    .map((s) => s.claim);
  const claims = allClaims({ proof, beside });
  const unit = readingUnit(gadget, channel.channel);
  const budget = typeof proof === 'string' ? null : proof.budget;
  const summary = proofSummary(
    claims.map((claim) => ({ channelId: channel.channel.id, channelName: null, claim })),
  );
  return (
    <>
      <PageHead title="Prove" gadget={gadget} channel={channel} />
      <ChannelStrip channel={channel} />
      {claims.length > 0 && (
        <section className="panel mb-4" aria-label="What is shown">
          <h2>{summary.sentence}</h2>
          {summary.next && (
            <p className="mt-1 text-sm">
              <span className="font-semibold">Next best:</span> {summary.next.text}{' '}
              <Link
                className="link link-primary"
                to={claimHref(gadget.id, channel.channel.id, summary.next.by, summary.next.claimId)}
              >
                {WHERE[summary.next.by ?? 'line'].title}
              </Link>
            </p>
          )}
          {whole && whole.channels.length > 1 && (
            <p className="muted mt-1 text-sm">
              Of the whole gadget: {whole.sentence}{' '}
              {whole.next && whole.next.channelId !== channel.channel.id && (
                <Link className="link link-primary" to={`/g/${gadget.id}/prove?ch=${whole.next.channelId}`}>
                  Go to {gadget.channels.find((c) => c.id === whole.next!.channelId)?.name}
                </Link>
              )}
            </p>
          )}
        </section>
      )}
      {typeof proof === 'string' && (
        <div className="mb-4">
          <EmptyState
            title={claims.length === 0 ? 'Nothing to prove yet' : 'The brief’s own claims cannot be judged'}
          >
            {proof}
          </EmptyState>
        </div>
      )}
      <div className={budget === null ? '' : 'grid items-start gap-4 xl:grid-cols-[1fr_1.1fr]'}>
        {claims.length > 0 && (
          <ClaimsPanel
            gadgetId={gadget.id}
            channelId={channel.channel.id}
            claims={claims}
            checks={typeof proof === 'string' ? [] : proof.checks}
            symbol={unit === null ? '' : UNITS[unit].symbol}
          />
        )}
        {budget === null || unit === null ? null : typeof budget === 'string' ? (
          <section className="panel">
            <h2>Error budget</h2>
            <p className="mt-2 text-sm">{budget}</p>
          </section>
        ) : (
          <BudgetTable budget={budget} unit={unit} tolerance={toleranceIn(brief, unit) ?? Number.NaN} />
        )}
      </div>
      <StudiesPanel channel={channel} />
    </>
  );
}
