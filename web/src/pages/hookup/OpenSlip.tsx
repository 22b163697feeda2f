import { useState } from 'react';
import { type ExpectedGroup } from '@lucky-needle/core/plan';
import type { Gadget } from '@lucky-needle/core/model';
import { convertUnit, UNITS } from '@lucky-needle/core/units';
import { useLive } from '../../live/useLive.ts';
import { SlipCard } from '../../parts/SlipCard.tsx';
import { meanOf, endUnit } from './newest.ts';

/** Freezes what was shown when the row was judged, and asks what slipped. */
export function OpenSlip({
  at,
  group,
  gadget,
  readings,
  onClose,
}: {
  at: string;
  group: ExpectedGroup;
  gadget: Gadget;
  readings: readonly number[];
  onClose(): void;
}) {
  const live = useLive();
  const [i, c] = at.split('/').map(Number) as [number, number];
  const channel = group.channels[c]!;
  const row = group.rows[c]![i]!;
  const end = endUnit(channel, gadget.sampleRateHz);
  const [observation] = useState(() => ({
    shown: readings[c]!,
    expected:
      UNITS[end].dimension === UNITS[row.unit].dimension
        ? convertUnit(row.reading[0]!, row.unit, end)
        : row.reading[0]!,
    ...(row.raw.length === 1 ? { raw: meanOf(live.columns.get(row.raw[0]!.column)) } : {}),
  }));
  if (!Number.isFinite(observation.shown))
    return (
      <p role="status" className="mt-2 rounded-box border border-warning/60 bg-warning/8 p-3 text-sm">
        {channel.name} gives no reading: the ADC is at the end of its range, or the line cannot convert the
        value. Check that the part has power and is wired to the pin in the table.{' '}
        <button type="button" className="link" onClick={onClose}>
          Close
        </button>
      </p>
    );
  return (
    <div className="mt-2">
      <SlipCard
        observations={[observation]}
        unit={end}
        line={channel.line}
        sampleRateHz={gadget.sampleRateHz}
        onClose={onClose}
      />
    </div>
  );
}
