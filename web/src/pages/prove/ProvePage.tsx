import { useMemo } from 'react';
import { Link } from 'react-router';
import { compileLine, LineError } from '@lucky-needle/core/line';
import { proveChannel, type Proof } from '@lucky-needle/core/prove';
import { UNITS } from '@lucky-needle/core/units';
import { useBench, useChannel } from '../../app/useBench.ts';
import { useLiveOf } from '../../live/useLive.ts';
import { useSeenRaw } from '../../live/useSeenRaw.ts';
import { ChannelStrip } from '../../parts/ChannelStrip.tsx';
import { EmptyState } from '../../parts/EmptyState.tsx';
import { PageHead } from '../../parts/PageHead.tsx';
import { ToleranceScale } from '../../parts/ToleranceScale.tsx';
import { VerdictBadge } from '../../parts/VerdictBadge.tsx';
import { BudgetTable } from './BudgetTable.tsx';

/** Whether the channel keeps its brief's promise: claims with their state, and where the error comes from. */
export function ProvePage() {
  const bench = useBench();
  const { gadget } = bench;
  const channel = useChannel(bench);
  const status = useLiveOf((live) => live.status);
  // Whole readings a second, so that the page does not work everything out anew at every flicker of the rate.
  const achievedHz = status?.state === 'up' ? Math.round(status.achievedHz * 10) / 10 : null;
  const seen = useSeenRaw(channel.line.sources.map((s) => s.column));
  const proof = useMemo<Proof | string>(() => {
    if (!channel.brief) return 'Write the brief first: it says what must be proved.';
    if (channel.line.stages.length === 0) return 'Build the line first: raw counts promise nothing.';
    try {
      const line = compileLine(channel.line, { sampleRateHz: gadget.sampleRateHz });
      return proveChannel({
        line,
        brief: channel.brief,
        calibration: channel.calibration,
        points: channel.points,
        achievedHz,
        seen,
      });
    } catch (error) {
      if (error instanceof LineError || error instanceof RangeError) return error.message;
      throw error;
    }
  }, [
    gadget.sampleRateHz,
    channel.brief,
    channel.line,
    channel.calibration,
    channel.points,
    achievedHz,
    seen,
  ]);
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
  const worst = proof.checks.toSorted((a, b) => a.verdict.margin - b.verdict.margin)[0];
  return (
    <>
      <PageHead title="Prove" gadget={gadget} channel={channel} />
      <ChannelStrip channel={channel} />
      <div className="grid items-start gap-4 xl:grid-cols-[1fr_1.1fr]">
        <section className="panel">
          <h2>
            {proof.shown} of {proof.claims.length} claims shown
          </h2>
          <ul className="mt-2 divide-y divide-base-300">
            {proof.claims.map((claim) => (
              <li key={claim.id} className="grid gap-1 py-3" data-testid={`claim-${claim.id}`}>
                <div className="flex items-center justify-between gap-3">
                  <h3 className="text-sm font-semibold">{claim.title}</h3>
                  <VerdictBadge state={claim.state} />
                </div>
                <p className="text-sm">{claim.sentence}</p>
                {claim.next && (
                  <p className="muted text-sm">
                    Next: {claim.next}{' '}
                    {(claim.id === 'check' ||
                      claim.id === 'span' ||
                      claim.id === 'noise' ||
                      claim.id === 'budget') && (
                      <Link
                        className="link link-primary"
                        to={`/g/${gadget.id}/true-up?ch=${channel.channel.id}`}
                      >
                        Go to True-up
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
