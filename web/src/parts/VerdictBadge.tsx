import type { VerdictState } from '@lucky-needle/core/verdict';
import { VERDICT_WORDS } from '@lucky-needle/core/words';

const TONE: Record<VerdictState, string> = {
  pass: 'bg-success text-success-content',
  fail: 'bg-error text-error-content',
  'not shown': 'border border-warning text-warning',
};

const SIGN: Record<VerdictState, string> = { pass: '✓', fail: '✕', 'not shown': '?' };

export function VerdictBadge({ state }: { state: VerdictState }) {
  return (
    <span className={`rounded-field px-2 py-0.5 text-xs font-semibold whitespace-nowrap ${TONE[state]}`}>
      {SIGN[state]} {VERDICT_WORDS[state]}
    </span>
  );
}
