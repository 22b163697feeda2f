import { Link } from 'react-router';
import { readingUnit, toleranceIn } from '@lucky-needle/core/plan';
import { UNITS } from '@lucky-needle/core/units';
import { useBench, useChannel, type BenchContext, type ChannelContext } from '../../app/useBench.ts';
import { useProofLookedAt } from '../../live/useProof.ts';
import { ChannelStrip } from '../../parts/ChannelStrip.tsx';
import { EmptyState } from '../../parts/EmptyState.tsx';
import { Loading } from '../../parts/Loading.tsx';
import { PageHead } from '../../parts/PageHead.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { BudgetTable } from './BudgetTable.tsx';
import { claimHref, ClaimsPanel, WHERE } from './ClaimsPanel.tsx';
import { StudiesPanel } from './studies/StudiesPanel.tsx';

/** Whether the channel keeps its brief's promise: claims with their state, and where the error comes from. */
export function ProvePage() {
  const bench = useBench();
  const channel = useChannel(bench);
  useProofLookedAt(bench.gadget.id, bench.gadget.brief !== null);
  return (
    <>
      <PageHead title="Prove" gadget={bench.gadget} channel={channel}>
        <span className="print-only text-sm">{bench.gadget.name}</span>
      </PageHead>
      <ChannelStrip channel={channel} />
      <Proved bench={bench} channel={channel} />
      <StudiesPanel channel={channel} />
    </>
  );
}

/** What the server says of the channel, or why it says nothing. */
function Proved({
  bench: { gadget, proof: asked },
  channel: { channel, brief },
}: {
  readonly bench: BenchContext;
  readonly channel: ChannelContext;
}) {
  const whole = asked.proof;
  if (!gadget.brief)
    return <Nothing title="Nothing to prove yet">Write the brief first: it defines what to prove.</Nothing>;
  if (!whole)
    return (
      <div className="mb-4">
        {asked.problem ? <ProblemNote problem={asked.problem} /> : <Loading what="the claims" />}
      </div>
    );
  const told = whole.channels.find((c) => c.channelId === channel.id);
  if (!told)
    return (
      <Nothing title="Nothing to prove yet">
        The brief has no requirement for this channel. Add one in the brief.
      </Nothing>
    );
  const { claims, own, budget, noBudget, problem, worstCheck } = told;
  const unit = readingUnit(gadget, channel);
  return (
    <>
      {claims.length > 0 && (
        <section className="panel mb-4" aria-label="Summary">
          <h2>{own.sentence}</h2>
          {own.next && (
            <p className="mt-1 text-sm">
              <span className="font-semibold">Next step:</span> {own.next.text}{' '}
              <Link
                className="link link-primary"
                to={claimHref(gadget.id, channel.id, own.next.by, own.next.claimId)}
              >
                {WHERE[own.next.by ?? 'line'].title}
              </Link>
            </p>
          )}
          {whole.channels.length > 1 && (
            <p className="muted mt-1 text-sm">
              Whole gadget: {whole.sentence}{' '}
              {whole.next && whole.next.channelId !== channel.id && (
                <Link className="link link-primary" to={`/g/${gadget.id}/prove?ch=${whole.next.channelId}`}>
                  Go to {gadget.channels.find((c) => c.id === whole.next!.channelId)?.name}
                </Link>
              )}
            </p>
          )}
        </section>
      )}
      {problem !== null && (
        <Nothing title={claims.length === 0 ? 'Nothing to prove yet' : 'The brief’s claims cannot be judged'}>
          {problem}
        </Nothing>
      )}
      <div className={budget || noBudget ? 'grid items-start gap-4 xl:grid-cols-[1fr_1.1fr]' : ''}>
        {claims.length > 0 && (
          <ClaimsPanel
            gadgetId={gadget.id}
            channelId={channel.id}
            claims={claims}
            worstCheck={worstCheck}
            symbol={unit === null ? '' : UNITS[unit].symbol}
          />
        )}
        {budget ? (
          <BudgetTable budget={budget} tolerance={toleranceIn(brief, budget.unit) ?? Number.NaN} />
        ) : (
          noBudget && (
            <section className="panel">
              <h2>Uncertainty budget</h2>
              <p className="mt-2 text-sm">{noBudget}</p>
            </section>
          )
        )}
      </div>
    </>
  );
}

const Nothing = ({ title, children }: { title: string; children: string }) => (
  <div className="mb-4">
    <EmptyState title={title}>{children}</EmptyState>
  </div>
);
