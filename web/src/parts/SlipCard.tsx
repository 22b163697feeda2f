import { useMemo } from 'react';
import { findSlips, type SlipObservation } from '@lucky-needle/core/calibrate';
import type { LineEdit, LineSpec } from '@lucky-needle/core/model';
import { printSignificant, UNITS, type UnitId } from '@lucky-needle/core/units';

interface Props {
  readonly observation: SlipObservation;
  readonly unit: UnitId;
  readonly line: LineSpec;
  readonly sampleRateHz: number;
  onClose(): void;
  /** Takes a slip out of the line; without it slips are only told. */
  onApply?(edit: LineEdit): void;
}

/** "It shows X, it should be about Y": what could have slipped, likeliest first, each with the one step that would confirm it. */
export function SlipCard({ observation, unit, line, sampleRateHz, onClose, onApply }: Props) {
  const found = useMemo(
    () => findSlips([observation], { unit, line, sampleRateHz, tolerance: 0.06 }).slice(0, 5),
    [observation, unit, line, sampleRateHz],
  );
  const symbol = UNITS[unit].symbol;
  return (
    <section
      className="rounded-box border border-warning/60 bg-warning/8 p-3 text-sm"
      aria-label="Slip finder"
    >
      <header className="flex items-baseline justify-between gap-3">
        <h3 className="font-semibold">
          It shows <span className="num">{printSignificant(observation.shown)}</span> and should be about{' '}
          <span className="num">
            {printSignificant(observation.expected)} {symbol}
          </span>
        </h3>
        <button type="button" className="btn btn-ghost btn-xs" onClick={onClose}>
          Close
        </button>
      </header>
      {found.length === 0 ? (
        <p className="mt-2">
          No usual slip explains it. Check the wire, the pin and the power of the part, then measure the volts
          at the pin against the sheet.
        </p>
      ) : (
        <ol className="mt-2 grid list-decimal gap-2 pl-5">
          {found.map((slip) => (
            <li key={slip.ids.join()}>
              <p>
                <strong className="font-semibold">{slip.title}</strong>
                <span className="muted">
                  {' '}
                  It would then read <span className="num">{printSignificant(slip.corrected)}</span> {symbol}.
                </span>
              </p>
              <p className="muted">Try: {slip.test}</p>
              {onApply && slip.edit && (
                <button type="button" className="btn btn-xs mt-1" onClick={() => onApply(slip.edit!)}>
                  Take it out of the line
                </button>
              )}
            </li>
          ))}
        </ol>
      )}
    </section>
  );
}
