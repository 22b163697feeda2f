import { useState } from 'react';
import type { Trial } from '@lucky-needle/core/model';
import { UNITS } from '@lucky-needle/core/units';
import { Choice } from '../../../parts/Choice.tsx';
import { Plot } from '../../../parts/Plot.tsx';
import { inkOf } from './labels.ts';

interface Props {
  readonly trials: readonly Trial[];
  readonly labels: readonly string[];
}

/** One figure of the trials against another: whether what is larger in one is larger in the other as well. */
export function FiguresCard({ trials, labels }: Props) {
  const figures = (trials.at(-1)?.figures ?? []).map(({ id, name, unit }) => ({ id, name, unit }));
  const [chosen, setChosen] = useState<readonly [string, string] | null>(null);
  // Those that trials have come first.
  const made = figures.filter((f) => trials.some((t) => valueOf(t, f.id) !== null));
  const [first, second] = made.length > 1 ? made : figures;
  const [xId, yId] = chosen ?? [first?.id ?? '', second?.id ?? ''];
  const [x, y] = [figures.find((f) => f.id === xId), figures.find((f) => f.id === yId)];
  if (!x || !y) return null;
  const options = figures.map(({ id, name }) => [id, name] as const);
  const points = trials
    .filter((t) => t.excluded === null && !t.isOpen)
    .flatMap((t) => {
      const [a, b] = [valueOf(t, x.id), valueOf(t, y.id)];
      return a === null || b === null ? [] : [{ label: t.label, a, b }];
    });
  const axis = ({ name, unit }: typeof x) => ({ label: name, unit: UNITS[unit].symbol });
  return (
    <section className="panel" aria-label="Compare two results">
      <h2>Compare two results</h2>
      <div className="mt-2 flex flex-wrap gap-3">
        <Choice
          label="Horizontal axis"
          value={x.id}
          options={options}
          onChange={(id) => setChosen([id, yId])}
        />
        <Choice
          label="Vertical axis"
          value={y.id}
          options={options}
          onChange={(id) => setChosen([xId, id])}
        />
      </div>
      {points.length === 0 ? (
        <p className="muted mt-2 text-sm">No trial has both results.</p>
      ) : (
        <Plot
          title={`${y.name} vs ${x.name}`}
          height={200}
          series={['', ...labels].flatMap((label) => {
            const own = points.filter((p) => p.label === label);
            return own.length === 0
              ? []
              : [
                  {
                    label: label === '' ? 'unlabelled' : label,
                    x: own.map((p) => p.a),
                    y: own.map((p) => p.b),
                    ink: inkOf(labels, label),
                    style: 'rings' as const,
                  },
                ];
          })}
          x={axis(x)}
          y={axis(y)}
        />
      )}
    </section>
  );
}

const valueOf = (trial: Trial, id: string) => trial.figures.find((f) => f.id === id)?.value ?? null;
