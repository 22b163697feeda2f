import { useMemo } from 'react';
import { Link } from 'react-router';
import { compileLine } from '@lucky-needle/core/line';
import { channelProof, gadgetProof } from '@lucky-needle/core/plan';
import { byWeight, proofSummary, type Claim } from '@lucky-needle/core/prove';
import { UNITS } from '@lucky-needle/core/units';
import { useBench, useChannel } from '../../app/useBench.ts';
import { useLiveOf } from '../../live/useLive.ts';
import { useSeenRows } from '../../live/useSeenRows.ts';
import { ChannelStrip } from '../../parts/ChannelStrip.tsx';
import { EmptyState } from '../../parts/EmptyState.tsx';
import { PageHead } from '../../parts/PageHead.tsx';
import { ToleranceScale } from '../../parts/ToleranceScale.tsx';
import { VerdictBadge } from '../../parts/VerdictBadge.tsx';
import { BudgetTable } from './BudgetTable.tsx';

/** Where what is missing is done. */
const WHERE: Readonly<Record<NonNullable<Claim['by']>, { readonly path: string; readonly title: string }>> = {
  link: { path: 'link', title: 'Go to Link' },
  'true-up': { path: 'true-up', title: 'Go to True-up' },
  'check point': { path: 'true-up', title: 'Go to True-up' },
  line: { path: 'line', title: 'Go to Line' },
};

/** Whether the channel keeps its brief's promise: claims with their state, and where the error comes from. */
export function ProvePage() {
  const bench = useBench();
  const { gadget } = bench;
  const channel = useChannel(bench);
  const status = useLiveOf((live) => live.status);
  // Whole readings a second, so that the page does not work everything out anew at every flicker of the rate.
  const achievedHz = status?.state === 'up' ? Math.round(status.achievedHz * 10) / 10 : null;
  const seen = useSeenRows(gadget.id);
  const { brief, line, calibration, points } = channel;
  const proof = useMemo(
    () =>
      channelProof({
        sampleRateHz: gadget.sampleRateHz,
        line,
        brief,
        calibration,
        points,
        achievedHz,
        seen,
      }),
    [gadget.sampleRateHz, brief, line, calibration, points, achievedHz, seen],
  );
  const whole = useMemo(
    () => gadgetProof(gadget, bench.calibrations, bench.points, achievedHz, seen),
    [gadget, bench.calibrations, bench.points, achievedHz, seen],
  );
  if (typeof proof === 'string') {
    return (
      <>
        <PageHead title="Prove" gadget={gadget} channel={channel} />
        <ChannelStrip channel={channel} />
        <EmptyState title="Nothing to prove yet">{proof}</EmptyState>
      </>
    );
  }
  const unit = compileLine(channel.line, { sampleRateHz: gadget.sampleRateHz }).outputs[0]!.unit;
  const summary = proofSummary(
    proof.claims.map((claim) => ({ channelId: channel.channel.id, channelName: null, claim })),
  );
  const whereTo = (by: Claim['by']) => `/g/${gadget.id}/${WHERE[by ?? 'line'].path}?ch=${channel.channel.id}`;
  const worst = proof.checks.toSorted((a, b) => a.verdict.margin - b.verdict.margin)[0];
  return (
    <>
      <PageHead title="Prove" gadget={gadget} channel={channel} />
      <ChannelStrip channel={channel} />
      <section className="panel mb-4" aria-label="What is shown">
        <h2>{summary.sentence}</h2>
        {summary.next && (
          <p className="mt-1 text-sm">
            <span className="font-semibold">Next best:</span> {summary.next.text}{' '}
            <Link className="link link-primary" to={whereTo(summary.next.by)}>
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
      <div className="grid items-start gap-4 xl:grid-cols-[1fr_1.1fr]">
        <section className="panel">
          <h2>Claims</h2>
          <ul className="mt-2 divide-y divide-base-300">
            {proof.claims.toSorted(byWeight).map((claim) => (
              <li key={claim.id} className="grid gap-1 py-3" data-testid={`claim-${claim.id}`}>
                <div className="flex items-center justify-between gap-3">
                  <h3 className="text-sm font-semibold">{claim.title}</h3>
                  <VerdictBadge state={claim.state} />
                </div>
                <p className="text-sm">{claim.sentence}</p>
                {claim.next && (
                  <p className="muted text-sm">
                    Next: {claim.next}{' '}
                    {claim.by && (
                      <Link className="link link-primary" to={whereTo(claim.by)}>
                        {WHERE[claim.by].title}
                      </Link>
                    )}
                  </p>
                )}
                {claim.id === 'check' && worst && (
                  <ToleranceScale
                    error={worst.error}
                    uncertainty={worst.uncertainty}
                    tolerance={worst.verdict.limit}
                    symbol={UNITS[unit].symbol}
                  />
                )}
              </li>
            ))}
          </ul>
        </section>
        {typeof proof.budget === 'string' ? (
          <section className="panel">
            <h2>Error budget</h2>
            <p className="mt-2 text-sm">{proof.budget}</p>
          </section>
        ) : (
          <BudgetTable budget={proof.budget} unit={unit} tolerance={channel.brief!.tolerance} />
        )}
      </div>
    </>
  );
}
