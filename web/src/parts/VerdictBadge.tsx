import type { VerdictState } from '@lucky-needle/core/verdict';

const TONE: Record<VerdictState, string> = {
  pass: 'bg-success text-success-content',
  fail: 'bg-error text-error-content',
  'not shown': 'border border-warning text-warning',
};

const WORD: Record<VerdictState, string> = { pass: '✓ Pass', fail: '✕ Fail', 'not shown': '? Not shown' };

export function VerdictBadge({ state }: { state: VerdictState }) {
  return (
    <span className={`rounded-field px-2 py-0.5 text-xs font-semibold whitespace-nowrap ${TONE[state]}`}>
      {WORD[state]}
    </span>
  );
}
