import { type PowerPlan } from '@lucky-needle/core/plan';

export function SwitchOn({ power }: { power: PowerPlan }) {
  const { steps, readyS, problem } = power.switchOn;
  return (
    <section className="panel" aria-label="Power-on sequence">
      <h2>Power-on sequence</h2>
      {problem ? (
        <p role="alert" className="mt-1 text-sm text-error">
          ✕ {problem}
        </p>
      ) : readyS === 0 ? (
        <p className="muted mt-1 text-sm">No part needs to warm up: switch everything on at once.</p>
      ) : (
        <>
          <ol className="num mt-2 grid gap-1 text-sm">
            {groupByTime(steps).map(([atS, titles]) => (
              <li key={atS} className="flex gap-4">
                <span className="w-16 shrink-0 text-right font-semibold">{clock(atS)}</span>
                <span className="font-sans">{titles.join(', ')}</span>
              </li>
            ))}
            <li className="flex gap-4 text-success">
              <span className="w-16 shrink-0 text-right font-semibold">{clock(readyS)}</span>
              <span className="font-sans">Warm-up complete. Ignore earlier readings.</span>
            </li>
          </ol>
        </>
      )}
    </section>
  );
}

function groupByTime(steps: readonly { atS: number; title: string }[]): [number, string[]][] {
  const at = new Map<number, string[]>();
  for (const { atS, title } of steps) at.set(atS, [...(at.get(atS) ?? []), title]);
  return [...at];
}

const clock = (s: number) => `${Math.floor(s / 60)}:${String(Math.round(s % 60)).padStart(2, '0')}`;
