import { compileLine } from '@lucky-needle/core/line';
import type { Channel } from '@lucky-needle/core/model';
import type { UnitId } from '@lucky-needle/core/units';

/** How many of the newest readings are taken together: a second or so, so that noise does not flicker. */
const NEWEST = 10;

export function meanOf(values: ArrayLike<number> | undefined): number {
  if (!values || values.length === 0) return Number.NaN;
  const from = Math.max(0, values.length - NEWEST);
  let sum = 0;
  for (let i = from; i < values.length; i++) sum += values[i]!;
  return sum / (values.length - from);
}

export function endUnit(channel: Channel, sampleRateHz: number): UnitId {
  return compileLine(channel.line, { sampleRateHz }).outputs[0]!.unit;
}
