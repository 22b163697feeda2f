import { Printer } from 'lucide-react';
import { useMemo, useState } from 'react';
import { bringUpSheet } from '@lucky-needle/core/plan';
import type { HookupTabProps } from './tabProps.ts';
import { GroupTable } from './GroupTable.tsx';

/** What to check at first power-up, in order, and what every channel should read; live values beside it turn rows right or wrong. */
export function SheetTab({ gadget, plan }: HookupTabProps) {
  const sheet = useMemo(() => bringUpSheet(plan), [plan]);
  const [done, setDone] = useState<readonly string[]>([]);
  return (
    <div className="sheet grid gap-4" data-testid="bring-up-sheet">
      <section className="panel" aria-label="Order of checks">
        <header className="flex flex-wrap items-center gap-3">
          <div className="grow">
            <h2 className="section-title">
              First power-up<span className="print-only">, {gadget.name}</span>
            </h2>
            <p className="muted text-sm">
              Follow this order: the checks for the most dangerous faults come first.
            </p>
          </div>
          <button type="button" className="btn btn-sm no-print" onClick={() => window.print()}>
            <Printer className="size-4" aria-hidden /> Print
          </button>
        </header>
        <ol className="mt-2 grid gap-1.5">
          {sheet.checks.map((check, i) => {
            const ticked = done.includes(check.id);
            return (
              <li key={check.id} className="flex items-baseline gap-3 text-sm">
                <input
                  type="checkbox"
                  className="checkbox checkbox-xs translate-y-0.5"
                  checked={ticked}
                  aria-label={`${check.title}: done`}
                  onChange={() =>
                    setDone(ticked ? done.filter((id) => id !== check.id) : [...done, check.id])
                  }
                />
                <span className="num muted w-4 shrink-0 text-right">{i + 1}</span>
                <span>
                  <strong className="font-semibold">{check.title}.</strong> {check.expect}{' '}
                  <span className="muted">If not: {check.otherwise}</span>
                </span>
              </li>
            );
          })}
        </ol>
      </section>
      {sheet.groups.map((group) => (
        <GroupTable key={group.channels.map((c) => c.id).join()} group={group} gadget={gadget} />
      ))}
      <div className="print-only text-xs">
        {sheet.cautions.map((c) => (
          <p key={c.id}>
            <strong>{c.title}.</strong> {c.text}
          </p>
        ))}
      </div>
    </div>
  );
}
