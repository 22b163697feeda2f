import type { Candidate } from '@lucky-needle/core/plan';
import { VerdictLine } from './VerdictLine.tsx';

interface Props {
  readonly candidate: Candidate;
  readonly picked: boolean;
  readonly saving: boolean;
  readonly compared: boolean;
  onPick(): void;
  onCompare(): void;
}

/** A part below the line: what fails and what would have to change, the rest one click away. Never hidden, and still to be picked by who insists. */
export function FailedRow({ candidate, picked, saving, compared, onPick, onCompare }: Props) {
  const { part, converter, verdicts } = candidate;
  const stops = verdicts.filter((v) => v.hard && v.state === 'fail');
  const name = converter ? `${part.title} with ${converter.title}` : part.title;
  return (
    <article className={`panel py-3 ${picked ? 'border-error' : ''}`} aria-label={name}>
      <header className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h2 className="section-title min-w-0 grow basis-64">
          {part.title}
          {converter && <span className="muted font-normal"> with {converter.title}</span>}
        </h2>
        <div className="flex flex-wrap items-center gap-x-4 gap-y-1 sm:flex-nowrap">
          <span className="num text-sm">{(part.price + (converter?.price ?? 0)).toFixed(2)}</span>
          <label className="flex items-center gap-1.5 text-sm">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={compared}
              aria-label={`Compare ${name}`}
              onChange={onCompare}
            />
            Compare
          </label>
          {picked ? (
            <span className="rounded-field border border-error px-2 py-0.5 text-xs font-semibold text-error">
              Picked anyway
            </span>
          ) : (
            <button type="button" className="btn btn-ghost btn-xs" disabled={saving} onClick={onPick}>
              Pick anyway
            </button>
          )}
        </div>
      </header>
      <ul className="mt-1 grid gap-1 text-sm">
        {stops.map((v) => (
          <li key={v.check + v.title} className="flex items-baseline gap-2">
            <span className="num w-3 shrink-0 font-bold text-error" aria-hidden>
              ✕
            </span>
            <span>
              <span className="font-medium">{v.title}</span> <span className="muted">{v.sentence}</span>{' '}
              <span className="text-xs">
                <strong className="font-semibold">To pass:</strong> {v.change}
              </span>
            </span>
          </li>
        ))}
      </ul>
      <details className="mt-1">
        <summary className="muted cursor-pointer text-xs">All {verdicts.length} checks</summary>
        <ul className="mt-2 grid gap-x-6 gap-y-1 text-sm md:grid-cols-2">
          {verdicts.map((v) => (
            <li key={v.check + v.title}>
              <VerdictLine verdict={v} />
            </li>
          ))}
        </ul>
      </details>
    </article>
  );
}
