import { useEffect, useRef } from 'react';
import { compareCandidates, type Candidate } from '@lucky-needle/core/plan';
import { MARK } from './VerdictLine.tsx';
import { lowerFirst } from '@lucky-needle/core/words';

interface Props {
  readonly candidates: readonly Candidate[];
  onClose(): void;
}

/** Two or three parts side by side; what differs stands out, and the better one is marked. */
export function ComparePanel({ candidates, onClose }: Props) {
  const panel = useRef<HTMLElement>(null);
  const ready = candidates.length > 1;
  // The last one chosen may stand far below.
  useEffect(() => {
    if (ready) panel.current?.scrollIntoView?.({ block: 'nearest' });
  }, [ready]);
  if (!ready)
    return (
      <p className="panel muted mb-3 py-2 text-sm" role="status">
        {candidates[0]!.part.title} is selected. Choose a second part to compare it with.{' '}
        <button type="button" className="link" onClick={onClose}>
          Stop comparing
        </button>
      </p>
    );
  const rows = compareCandidates(candidates);
  const same = rows.filter((r) => !r.differs);
  return (
    <section ref={panel} className="panel mb-3" aria-label="Comparison">
      <header className="flex items-center justify-between gap-3">
        <h2 className="section-title">Comparison</h2>
        <button type="button" className="btn btn-ghost btn-xs" onClick={onClose}>
          Stop comparing
        </button>
      </header>
      <div className="overflow-x-auto">
        <table className="table-sm table">
          <thead>
            <tr>
              <th className="pl-0">Check</th>
              {candidates.map((c) => (
                <th key={c.part.id + (c.converter?.id ?? '')} className="min-w-44 align-bottom">
                  <span className="block font-semibold text-base-content">{c.part.title}</span>
                  {c.converter && <span className="block font-normal">{c.converter.title}</span>}
                  <span className="num block font-normal">
                    {(c.part.price + (c.converter?.price ?? 0)).toFixed(2)}, {c.score.toFixed(0)} of 100
                  </span>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows
              .filter((r) => r.differs)
              .map((row) => (
                <tr key={row.title}>
                  <th scope="row" className="pl-0 align-top">
                    {row.title}
                  </th>
                  {row.cells.map((cell, i) => (
                    <td
                      key={candidates[i]!.part.id + (candidates[i]!.converter?.id ?? '')}
                      className={`align-top ${cell.best ? 'bg-success/10' : ''}`}
                    >
                      <span className={`num mr-1 font-bold ${MARK[cell.state].tone}`} aria-hidden>
                        {MARK[cell.state].sign}
                      </span>
                      <span className="sr-only">{MARK[cell.state].word}. </span>
                      {cell.sentence}
                      {cell.best && <span className="ml-1 text-xs font-semibold text-success">best</span>}
                    </td>
                  ))}
                </tr>
              ))}
          </tbody>
        </table>
      </div>
      {same.length > 0 && (
        <p className="muted mt-2 text-xs">Same for all: {same.map((r) => lowerFirst(r.title)).join(', ')}.</p>
      )}
    </section>
  );
}
