import type { FitState, PartVerdict } from '@lucky-needle/core/plan';
import { MarginScale } from '../../parts/MarginScale.tsx';

export const MARK: Record<FitState, { sign: string; word: string; tone: string }> = {
  pass: { sign: '✓', word: 'pass', tone: 'text-success' },
  tight: { sign: '≈', word: 'tight', tone: 'text-warning' },
  fail: { sign: '✕', word: 'fail', tone: 'text-error' },
};

/** One verdict as a sentence with its margin; the arithmetic, and what would have to change, one click away. */
export function VerdictLine({ verdict }: { verdict: PartVerdict }) {
  const mark = MARK[verdict.state];
  return (
    <details>
      <summary className="flex cursor-pointer items-baseline gap-2 rounded-field marker:content-none">
        <span className={`num w-3 shrink-0 font-bold ${mark.tone}`} aria-hidden>
          {mark.sign}
        </span>
        <span className="grow">
          <span className="font-medium">{verdict.title}</span>
          <span className="sr-only"> {mark.word}</span>
          <span className="muted"> {verdict.sentence}</span>
        </span>
        <MarginScale margin={verdict.margin} />
      </summary>
      <div className="muted mt-1 mb-2 ml-5 border-l-2 border-base-300 pl-3 text-xs">
        <p>{verdict.arithmetic}</p>
        {verdict.change && (
          <p className="mt-1">
            <strong className="font-semibold">To pass: </strong>
            {verdict.change}
          </p>
        )}
      </div>
    </details>
  );
}
