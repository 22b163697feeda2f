import type { Candidate, FitState } from '@lucky-needle/core/plan';

const MARK: Record<FitState, { sign: string; word: string; tone: string }> = {
  pass: { sign: '✓', word: 'pass', tone: 'text-success' },
  tight: { sign: '≈', word: 'tight', tone: 'text-warning' },
  fail: { sign: '✕', word: 'fail', tone: 'text-error' },
};

interface Props {
  readonly candidate: Candidate;
  readonly rank: number | null;
  readonly picked: boolean;
  readonly saving: boolean;
  onPick(): void;
}

/** One sensor: its verdicts as sentences, the arithmetic one click away. */
export function CandidateCard({ candidate, rank, picked, saving, onPick }: Props) {
  const { part, verdicts, score } = candidate;
  return (
    <article className={`panel ${picked ? 'border-primary' : ''}`} aria-label={part.title}>
      <header className="flex flex-wrap items-center gap-x-4 gap-y-1">
        {rank !== null && <span className="num text-xl font-semibold">{rank}</span>}
        <div className="min-w-48 grow">
          <h2 className="section-title">{part.title}</h2>
          <p className="muted text-sm">{part.summary}</p>
        </div>
        <span className="num text-sm">
          {part.price.toFixed(2)} <span className="muted">each</span>
        </span>
        <span className="num text-sm">
          {score.toFixed(0)} <span className="muted">of 100</span>
        </span>
        {picked ? (
          <span className="rounded-field bg-primary px-3 py-1.5 text-sm font-semibold text-primary-content">
            ✓ Picked
          </span>
        ) : (
          <button type="button" className="btn btn-sm" disabled={saving} onClick={onPick}>
            Pick this
          </button>
        )}
      </header>
      <ul className="mt-3 grid gap-x-6 gap-y-1 text-sm md:grid-cols-2 2xl:grid-cols-3">
        {verdicts.map((v) => (
          <li key={v.check}>
            <details>
              <summary className="flex cursor-pointer items-baseline gap-2 rounded-field marker:content-none">
                <span className={`num w-3 font-bold ${MARK[v.state].tone}`} aria-hidden>
                  {MARK[v.state].sign}
                </span>
                <span>
                  <span className="font-medium">{v.title}</span>
                  <span className="sr-only"> {MARK[v.state].word}</span>
                  <span className="muted"> {v.sentence}</span>
                </span>
              </summary>
              <p className="muted mt-1 mb-2 ml-5 border-l-2 border-base-300 pl-3 text-xs">{v.arithmetic}</p>
            </details>
          </li>
        ))}
      </ul>
    </article>
  );
}
