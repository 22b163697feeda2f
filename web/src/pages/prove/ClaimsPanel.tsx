import { Link } from 'react-router';
import type { ClaimAnswer, ProofOfChannel } from '@lucky-needle/core/model';
import { Explained } from '../../parts/Explained.tsx';
import { ToleranceScale } from '../../parts/ToleranceScale.tsx';
import { VerdictBadge } from '../../parts/VerdictBadge.tsx';

/** Where what is missing is done. */
export const WHERE: Readonly<
  Record<NonNullable<ClaimAnswer['by']>, { readonly path: string; readonly title: string }>
> = {
  link: { path: 'link', title: 'Go to Link' },
  'true-up': { path: 'true-up', title: 'Go to True-up' },
  'check point': { path: 'true-up', title: 'Go to True-up' },
  line: { path: 'line', title: 'Go to Line' },
  pick: { path: 'pick', title: 'Go to Pick' },
  shelf: { path: 'shelf', title: 'Go to the shelf' },
  'new study': { path: 'prove', title: 'Go to Studies' },
  study: { path: 'prove', title: 'Open the study' },
};

/** The page on which a claim is settled. */
export function claimHref(
  gadgetId: string,
  channelId: string,
  by: ClaimAnswer['by'],
  claimId: string,
): string {
  if (by === 'shelf') return '/shelf';
  if (by === 'new study') return `/g/${gadgetId}/prove?ch=${channelId}#studies`;
  const path = by === 'study' ? `prove/${claimId.slice('study-'.length)}` : WHERE[by ?? 'line'].path;
  return `/g/${gadgetId}/${path}?ch=${channelId}`;
}

interface Props {
  readonly gadgetId: string;
  readonly channelId: string;
  /** By their weight. */
  readonly claims: readonly ClaimAnswer[];
  readonly worstCheck: ProofOfChannel['worstCheck'];
  readonly symbol: string;
}

/** What is claimed of a channel, by weight, each with its state and what would show it. */
export function ClaimsPanel({ gadgetId, channelId, claims, worstCheck, symbol }: Props) {
  return (
    <section className="panel">
      <h2>
        <Explained text="Claims" />
      </h2>
      <p className="muted mt-1 text-sm">
        <Explained text="Each claim passes, fails, or is not proven: then there is too little evidence to say either." />
      </p>
      <ul className="mt-2 divide-y divide-base-300">
        {claims.map((claim) => (
          <li key={claim.id} className="grid gap-1 py-3" data-testid={`claim-${claim.id}`}>
            <div className="flex items-center justify-between gap-3">
              <h3 className="text-sm font-semibold">{claim.title}</h3>
              <VerdictBadge state={claim.state} />
            </div>
            <p className="text-sm">
              <Explained text={claim.sentence} />
            </p>
            {claim.next && (
              <p className="muted text-sm">
                Next step: {claim.next}{' '}
                {claim.by && (
                  <Link className="link link-primary" to={claimHref(gadgetId, channelId, claim.by, claim.id)}>
                    {WHERE[claim.by].title}
                  </Link>
                )}
              </p>
            )}
            {claim.id === 'check' && worstCheck && (
              <ToleranceScale
                error={worstCheck.error}
                uncertainty={worstCheck.uncertainty}
                tolerance={worstCheck.limit}
                symbol={symbol}
              />
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
