import { TriangleAlert } from 'lucide-react';
import type { ReactNode } from 'react';
import type { Problem } from '@lucky-needle/core/model';

/** What is wrong, where, and the way out. */
export function ProblemNote({ problem, children }: { problem: Problem | null; children?: ReactNode }) {
  if (!problem) return null;
  return (
    <div role="alert" className="flex gap-3 rounded-box border border-error/50 bg-error/8 p-3 text-sm">
      <TriangleAlert aria-hidden className="mt-0.5 size-4 shrink-0 text-error" />
      <div>
        <p className="font-semibold">{problem.detail}</p>
        <p className="muted">{problem.wayOut}</p>
        {children}
      </div>
    </div>
  );
}
