import { WEIGHTS, type Check, type Weights } from '@lucky-needle/core/plan';
import { lowerFirst } from '@lucky-needle/core/words';

interface Props {
  /** The checks that are made here, with their titles. */
  readonly checks: readonly (readonly [Check, string])[];
  readonly weights: Weights;
  onChange(weights: Weights): void;
}

/** How much each check counts in the score; moved by the maker, and the ranking follows at once. */
export function WeightsPanel({ checks, weights, onChange }: Props) {
  const moved = checks.some(([check]) => weights[check] !== WEIGHTS[check]);
  return (
    <details className="panel mb-3 py-2">
      <summary className="cursor-pointer text-sm">
        <span className="font-semibold">Score weights</span>{' '}
        <span className="muted max-md:hidden">
          {checks.map(([check, title]) => `${lowerFirst(title)} ×${weights[check]}`).join(', ')}
        </span>
      </summary>
      <div className="mt-3 grid gap-x-6 gap-y-2 sm:grid-cols-2 lg:grid-cols-3">
        {checks.map(([check, title]) => (
          <label key={check} className="flex items-center gap-3 text-sm">
            <span className="w-44 shrink-0">{title}</span>
            <input
              type="range"
              className="range range-xs"
              min={0}
              max={5}
              step={1}
              value={weights[check]}
              aria-label={`Weight of ${title}`}
              onChange={(e) => {
                const next = { ...weights, [check]: Number(e.target.value) };
                // All at nothing would leave no score.
                if (checks.some(([c]) => next[c] > 0)) onChange(next);
              }}
            />
            <span className="num w-6">{weights[check]}</span>
          </label>
        ))}
      </div>
      <p className="muted mt-2 text-xs">
        A pass scores in full, a tight pass half, a fail nothing. Parts that cannot work stay at the bottom
        whatever the weights.
        {moved && (
          <>
            {' '}
            <button type="button" className="link" onClick={() => onChange(WEIGHTS)}>
              Reset
            </button>
          </>
        )}
      </p>
    </details>
  );
}
