import { useMemo, useState } from 'react';
import type { CalibrationPoint, Gadget, ReferenceInput } from '@lucky-needle/core/model';
import { referenceValue } from '@lucky-needle/core/references';
import { printWithUncertainty, type UnitId } from '@lucky-needle/core/units';
import { useFaults } from '../../parts/useFaults.ts';
import { ReferenceFields } from './ReferenceFields.tsx';

interface Props {
  readonly point: CalibrationPoint;
  readonly gadget: Gadget;
  readonly unit: UnitId;
  onCorrect(reference: ReferenceInput): void;
  onCancel(): void;
}

/** Another reference for a point that was kept with a wrong one; the counts stay, and what it was stays in the logbook. */
export function CorrectReference({ point, gadget, unit, onCorrect, onCancel }: Props) {
  const [reference, setReference] = useState(point.reference);
  const { wrong, tellFault } = useFaults();
  const worth = useMemo(() => {
    try {
      return referenceValue(reference, unit);
    } catch (error) {
      return (error as Error).message;
    }
  }, [reference, unit]);
  const printed =
    typeof worth === 'string' ? null : printWithUncertainty(worth.value, worth.uncertainty, worth.unit);
  return (
    <form
      className="grid max-w-md gap-2 py-2"
      aria-label={`Edit the reference value of ${point.worth.title}`}
      onSubmit={(e) => {
        e.preventDefault();
        onCorrect(reference);
      }}
    >
      <ReferenceFields
        value={reference}
        onChange={setReference}
        onFault={tellFault}
        unit={unit}
        gadget={gadget}
        instruments={[]}
        columns={[]}
      />
      {printed ? (
        <p className="text-sm">
          Value{' '}
          <span className="num font-semibold">
            {printed.value} <span className="muted font-normal">±{printed.uncertainty}</span> {printed.symbol}
          </span>
        </p>
      ) : (
        <p role="alert" className="text-sm text-error">
          {worth as string}
        </p>
      )}
      <div className="flex gap-2">
        <button className="btn btn-sm" disabled={!printed || wrong.length > 0}>
          Save
        </button>
        <button type="button" className="btn btn-ghost btn-sm" onClick={onCancel}>
          Cancel
        </button>
      </div>
    </form>
  );
}
