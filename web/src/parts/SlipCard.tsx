import { useMemo } from 'react';
import { findSlips, type SlipObservation } from '@lucky-needle/core/calibrate';
import type { LineEdit, LineSpec } from '@lucky-needle/core/model';
import { printSignificant, UNITS, type UnitId } from '@lucky-needle/core/units';

interface Props {
  readonly observations: readonly SlipObservation[];
  readonly unit: UnitId;
  readonly line: LineSpec;
  readonly sampleRateHz: number;
  onClose(): void;
  /** Takes a slip out of the line; without it slips are only told. */
  onApply?(edit: LineEdit): void;
}

/** Named beside each other at most. */
const MOST_ALIKE = 4;

/** "It shows X, it should be about Y": what could have slipped, likeliest first, each with the one step that would confirm it. */
export function SlipCard({ observations, unit, line, sampleRateHz, onClose, onApply }: Props) {
  const found = useMemo(
    () => findSlips(observations, { unit, line, sampleRateHz, tolerance: 0.06 }).slice(0, 5),
    [observations, unit, line, sampleRateHz],
  );
  const { symbol } = UNITS[unit];
  const value = (v: number) => `${printSignificant(v)} ${symbol}`.trim();
  return (
    <section
      className="rounded-box border border-warning/60 bg-warning/8 p-3 text-sm"
      aria-label="Find a mistake"
    >
      <header className="flex items-baseline justify-between gap-3">
        <h3 className="font-semibold">
          The gadget reads {observations.map((o) => value(o.shown)).join(' and ')} but should be about{' '}
          {observations.map((o) => value(o.expected)).join(' and ')}
        </h3>
        <button type="button" className="btn btn-ghost btn-xs" onClick={onClose}>
          Close
        </button>
      </header>
      {found.length === 0 ? (
        <p className="mt-2">
          {observations.every((o) => Math.abs(o.shown - o.expected) <= 0.06 * Math.abs(o.expected))
            ? 'The reading is correct within its uncertainty.'
            : 'No common mistake explains this. Check the part’s wire, pin and power, then measure the voltage at the pin and compare it with the bring-up sheet.'}
        </p>
      ) : (
        <ol className="mt-2 grid list-decimal gap-2 pl-5">
          {found.map((slip) => (
            <li key={slip.ids.join()}>
              <One {...slip} onApply={onApply} />
              <p className="muted">
                The reading would then be <span className="num">{value(slip.corrected)}</span>.
              </p>
              {slip.alike.length > 0 && (
                <>
                  <p className="mt-1">With these observations, it cannot be told apart from:</p>
                  <ul className="grid list-disc gap-1 pl-4">
                    {slip.alike.slice(0, MOST_ALIKE).map((other) => (
                      <li key={other.ids.join()}>
                        <One {...other} onApply={onApply} />
                      </li>
                    ))}
                    {slip.alike.length > MOST_ALIKE && (
                      <li className="muted">and {slip.alike.length - MOST_ALIKE} more</li>
                    )}
                  </ul>
                </>
              )}
            </li>
          ))}
        </ol>
      )}
    </section>
  );
}

interface OneProps {
  readonly title: string;
  readonly test: string;
  readonly edit: LineEdit | null;
  readonly onApply: Props['onApply'];
}

function One({ title, test, edit, onApply }: OneProps) {
  return (
    <>
      <p>
        <strong className="font-semibold">{title}</strong>
      </p>
      <p className="muted">Test: {test}</p>
      {onApply && edit && (
        <button
          type="button"
          className="btn btn-xs mt-1"
          aria-label={`Apply correction: ${title}`}
          onClick={() => onApply(edit)}
        >
          Apply correction
        </button>
      )}
    </>
  );
}
