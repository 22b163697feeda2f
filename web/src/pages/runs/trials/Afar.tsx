import { useEffect, useRef } from 'react';
import type { NowFigure, Trial, TrialRule } from '@lucky-needle/core/model';
import { printNumber, UNITS } from '@lucky-needle/core/units';
import { countingResults, resultOf } from './labels.ts';

interface Props {
  readonly trials: readonly Trial[];
  readonly rule: TrialRule;
  readonly figure: NowFigure;
  onClose(): void;
}

/** The newest result and the best so far, in figures that can be read across a room. */
export function Afar({ trials, rule, figure, onClose }: Props) {
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => dialog.current?.showModal(), []);
  const newest = trials.at(-1);
  const shown = newest && resultOf(newest, figure.id);
  const ordered = countingResults(trials, figure.id)
    .toSorted((a, b) => (rule.more ? b.value - a.value : a.value - b.value))
    .slice(0, 5);
  const symbol = UNITS[figure.unit].symbol;
  return (
    <dialog
      ref={dialog}
      className="m-0 grid h-dvh max-h-none w-dvw max-w-none grid-rows-[1fr_auto] bg-base-100 p-[4vmin] text-base-content"
      aria-label="Full-screen results"
      onClose={onClose}
      onClick={() => dialog.current?.close()}
    >
      <div className="grid content-center gap-[2vmin] text-center">
        <p className="muted text-[4vmin]">
          {figure.name}
          {newest ? `, ${namedOf(newest)}` : ''}
        </p>
        <p className="num text-[22vmin] leading-none font-semibold">
          {shown && shown.value !== null ? printNumber(shown.value, shown.decimals) : '–'}
          <span className="text-[7vmin]"> {symbol}</span>
        </p>
        {newest?.isOpen && <p className="text-[4vmin] text-accent">in progress</p>}
      </div>
      <ol className="grid gap-[1vmin] text-[4.5vmin]">
        {ordered.map(({ trial, value }, k) => (
          <li key={trial.id} className="flex justify-between gap-[4vmin] border-t border-base-300 pt-[1vmin]">
            <span>
              <span className="muted">{k + 1}</span> {trial.label || `trial ${trial.number}`}{' '}
              {trial.label && <span className="muted text-[3vmin]">{trial.runName}</span>}
            </span>
            <span className="num">
              {printNumber(value, figure.decimals)} {symbol}
            </span>
          </li>
        ))}
      </ol>
    </dialog>
  );
}

/** What a trial is called across the room: by the run where that is the only one of it. */
const namedOf = ({ label, runName, number }: Trial) =>
  [label, number === 1 ? runName : `${runName}, trial ${number}`].filter(Boolean).join(', ');
