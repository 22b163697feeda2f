import { useState } from 'react';
import type { Candidate } from '@lucky-needle/core/plan';
import { VerdictLine } from './VerdictLine.tsx';

interface Props {
  /** The same part read through different converters, best first. */
  readonly ways: readonly Candidate[];
  readonly rank: number;
  /** Converter of the present pick when it is this part; undefined when it is another. */
  readonly pickedThrough: string | null | undefined;
  readonly saving: boolean;
  readonly compared: boolean;
  onPick(candidate: Candidate): void;
  onCompare(candidate: Candidate): void;
}

/** One part that can meet the brief: its verdicts as sentences, the arithmetic one click away. */
export function CandidateCard({ ways, rank, pickedThrough, saving, compared, onPick, onCompare }: Props) {
  const picked = pickedThrough !== undefined;
  const [through, setThrough] = useState<string | null>(
    (picked ? pickedThrough : ways[0]!.converter?.id) ?? null,
  );
  const shown = ways.find((w) => (w.converter?.id ?? null) === through) ?? ways[0]!;
  const { part, verdicts, score } = shown;
  const isPicked = picked && pickedThrough === (shown.converter?.id ?? null);
  return (
    <article className={`panel ${picked ? 'border-primary' : ''}`} aria-label={part.title}>
      <header className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <span className="num text-xl font-semibold">{rank}</span>
        <div className="min-w-0 grow basis-48">
          <h2 className="section-title">{part.title}</h2>
          <p className="muted text-sm">{part.summary}</p>
        </div>
        <div className="flex flex-wrap items-center gap-x-4 gap-y-1 sm:flex-nowrap">
          <span className="num text-sm whitespace-nowrap">
            {(part.price + (shown.converter?.price ?? 0)).toFixed(2)}{' '}
            <span className="muted">{shown.converter ? 'with converter' : 'each'}</span>
          </span>
          <span className="num text-sm whitespace-nowrap">
            {score.toFixed(0)} <span className="muted">of 100</span>
          </span>
          <label className="flex items-center gap-1.5 text-sm">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={compared}
              aria-label={`Compare ${part.title}`}
              onChange={() => onCompare(shown)}
            />
            Compare
          </label>
          {isPicked ? (
            <span className="rounded-field bg-primary px-3 py-1.5 whitespace-nowrap text-sm font-semibold text-primary-content">
              ✓ Picked
            </span>
          ) : (
            <button type="button" className="btn btn-sm" disabled={saving} onClick={() => onPick(shown)}>
              Pick
            </button>
          )}
        </div>
      </header>
      {(ways.length > 1 || shown.converter) && (
        <label className="mt-2 flex flex-wrap items-center gap-2 text-sm">
          <span className="muted">Converter</span>
          <select
            className="select select-xs w-auto max-w-full"
            value={through ?? ''}
            onChange={(e) => setThrough(e.target.value || null)}
          >
            {ways.map((w) => (
              <option key={w.converter?.id ?? ''} value={w.converter?.id ?? ''}>
                {w.converter
                  ? `${w.converter.title} (${w.converter.price.toFixed(2)})`
                  : 'the board’s own ADC'}
                {`, ${w.score.toFixed(0)} of 100`}
              </option>
            ))}
          </select>
        </label>
      )}
      <ul className="mt-3 grid gap-x-6 gap-y-1 text-sm md:grid-cols-2">
        {verdicts.map((v) => (
          <li key={v.check + v.title}>
            <VerdictLine verdict={v} />
          </li>
        ))}
      </ul>
    </article>
  );
}
