import { useState } from 'react';
import { stepsOf } from '@lucky-needle/core/references';
import { printNominal } from '@lucky-needle/core/units';

/** Steps that are gone through, and the one that is next. */
export interface Climb {
  readonly steps: readonly number[];
  readonly next: number;
}

interface Props {
  readonly unit: string;
  /** Null before it has begun, and once it is through. */
  readonly climb: Climb | null;
  onStart(steps: readonly number[]): void;
  onStop(): void;
}

/** Steps up, and down again, one press each: what play and friction make of a reading is seen by coming from both sides. */
export function StaircaseCard({ unit, climb, onStart, onStop }: Props) {
  const [text, setText] = useState('');
  const [andBack, setAndBack] = useState(true);
  const [problem, setProblem] = useState('');
  if (climb) {
    const { steps, next } = climb;
    const top = steps.indexOf(Math.max(...steps));
    return (
      <section
        aria-label="Step series"
        className="grid gap-2 rounded-box border border-primary/50 p-3 text-sm"
      >
        <p role="status">
          Step {next + 1} of {steps.length}:{' '}
          <strong className="num">
            {printNominal(steps[next]!, 6)} {unit}
          </strong>
          {next > top ? ', on the way down' : ''}. Wait until the reading is steady, then capture the point.
        </p>
        <ol className="flex flex-wrap gap-1" aria-label="Steps">
          {steps.map((step, k) => (
            <li
              key={k}
              aria-current={k === next ? 'step' : undefined}
              className={`num rounded-field border px-1.5 py-0.5 text-xs ${k < next ? 'border-success text-success' : k === next ? 'border-primary font-semibold' : 'muted border-base-300'}`}
            >
              {k < next ? '✓ ' : ''}
              {printNominal(step, 6)}
            </li>
          ))}
        </ol>
        <button type="button" className="btn btn-ghost btn-xs justify-self-start" onClick={onStop}>
          Stop the series
        </button>
      </section>
    );
  }
  return (
    <details className="text-sm">
      <summary className="cursor-pointer rounded-field">Capture a series of steps</summary>
      <form
        className="mt-2 grid gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          try {
            const steps = stepsOf(text, andBack);
            setProblem('');
            onStart(steps);
          } catch (error) {
            if (!(error instanceof RangeError)) throw error;
            setProblem(error.message);
          }
        }}
      >
        <label className="block">
          <span className="muted mb-1 block text-xs">Steps, {unit}</span>
          <input
            className="input input-sm w-full"
            value={text}
            placeholder="5 10 20"
            onChange={(e) => setText(e.target.value)}
          />
        </label>
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={andBack}
            onChange={(e) => setAndBack(e.target.checked)}
          />
          Go back down in the same steps
        </label>
        {problem && (
          <p role="alert" className="text-error">
            {problem}
          </p>
        )}
        <button className="btn btn-sm justify-self-start" disabled={text.trim() === ''}>
          Start the series
        </button>
      </form>
    </details>
  );
}
