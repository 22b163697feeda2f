import type { ReactNode } from 'react';

/** A page or panel with nothing in it yet: says what to do first. */
export function EmptyState({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <div className="panel flex flex-col items-start gap-2 border-dashed">
      <p className="section-title">{title}</p>
      <div className="muted max-w-prose text-sm">{children}</div>
    </div>
  );
}
