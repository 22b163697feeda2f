import type { ReactNode } from 'react';
import type { FitResult } from '@lucky-needle/core/model';
import { printConstant } from '@lucky-needle/core/units';

interface Props {
  readonly result: FitResult;
  readonly busy: boolean;
  readonly testId: string;
  /** What the result means, in words, above its constants. */
  readonly children: ReactNode;
  onUse(): void;
}

/** What a guided true-up found, its constants with uncertainty and what they were, and the button that puts them in use. */
export function FoundConstants({ result, busy, testId, children, onUse }: Props) {
  return (
    <div className="rounded-box border border-success/50 p-3 text-sm" data-testid={testId}>
      <div>{children}</div>
      <details className="mt-1">
        <summary className="cursor-pointer rounded-field text-xs">
          {result.parameters.length === 1 ? 'Constant' : `The ${result.parameters.length} constants`} of the
          line
        </summary>
        <dl className="mt-1 grid gap-x-6 gap-y-0.5 text-xs sm:grid-cols-2">
          {result.parameters.map((p) => (
            <div key={p.param} className="flex justify-between gap-2">
              <dt className="muted">{p.title}</dt>
              <dd
                className="num text-right"
                data-testid={`found-${p.param}`}
                data-value={p.value}
                data-u={p.u}
              >
                {withDoubt(p)} {p.unit}
              </dd>
            </div>
          ))}
        </dl>
      </details>
      <button
        type="button"
        className="btn btn-primary btn-sm mt-2"
        disabled={busy || !result.converged}
        onClick={onUse}
      >
        Use this calibration
      </button>
    </div>
  );
}

/** A constant to the digits that its expanded uncertainty (k = 2) bears, with that. */
export const withDoubt = ({ value, u }: { readonly value: number; readonly u: number }, scale = 1): string =>
  `${printConstant(value * scale, 2 * u * scale)} ±${printConstant(2 * u * scale, 2 * u * scale)}`;
