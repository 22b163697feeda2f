import { findSlips } from '@lucky-needle/core/calibrate';
import type { CompiledLine } from '@lucky-needle/core/line';
import { printSignificant, UNITS, type UnitId } from '@lucky-needle/core/units';
import { lowerFirst } from '@lucky-needle/core/words';

interface Props {
  readonly line: CompiledLine;
  readonly raw: number;
  readonly reading: number;
  readonly reference: number;
  readonly unit: UnitId;
  onKeep(): void;
  onCancel(): void;
}

/** Asks before a reference is kept that lies far from what the line reads, with the likeliest slip beside it. */
export function FarCard({ line, raw, reading, reference, unit, onKeep, onCancel }: Props) {
  const { symbol } = UNITS[unit];
  const value = (v: number) => `${printSignificant(v, 3)} ${symbol}`.trim();
  const [slip] = findSlips([{ shown: reading, expected: reference, raw }], {
    unit,
    line: line.spec,
    sampleRateHz: line.context.sampleRateHz,
  });
  return (
    <div
      role="alertdialog"
      aria-label="Reference far from the reading"
      className="grid gap-2 rounded-box border border-warning/60 bg-warning/8 p-2 text-sm"
    >
      <p>
        The gadget reads {value(reading)} but the reference is {value(reference)}. Is this the right
        reference, entered correctly?
        {slip && (
          <>
            {' '}
            If so, the likely mistake is: {lowerFirst(slip.title)}. {slip.test}
          </>
        )}
      </p>
      <div className="flex flex-wrap gap-2">
        <button type="button" className="btn btn-sm" autoFocus onClick={onCancel}>
          Cancel
        </button>
        <button type="button" className="btn btn-ghost btn-sm" onClick={onKeep}>
          It is correct, capture it
        </button>
      </div>
    </div>
  );
}
