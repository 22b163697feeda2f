import { format } from 'date-fns';
import type { Gadget, RunPlan } from '@lucky-needle/core/model';
import { readingUnit } from '@lucky-needle/core/plan';
import { printNumber, UNITS } from '@lucky-needle/core/units';

/** Units that lengths of runs are typed in, the largest first, with their seconds. */
export const LENGTHS = [
  ['h', 3600],
  ['min', 60],
  ['s', 1],
] as const;

/** A length in the largest unit that leaves it a whole number; in seconds else. */
export function lengthIn(seconds: number): readonly [value: number, unit: string] {
  const [unit, scale] = LENGTHS.find(([, s]) => seconds % s === 0) ?? LENGTHS[2];
  return [seconds / scale, unit];
}

/** What is planned, in a maker's words and time. */
export function planInWords({ startAt, daily, stopAfterS, stopAt }: RunPlan, gadget: Gadget): string {
  const channel = gadget.channels.find((c) => c.id === stopAt?.channelId);
  const unit = channel ? readingUnit(gadget, channel) : null;
  const [length, lengthUnit] = lengthIn(stopAfterS ?? 0);
  const ends = [
    stopAfterS !== null ? `after ${printNumber(length, Number.isInteger(length) ? 0 : 1)} ${lengthUnit}` : '',
    stopAt
      ? `when ${channel?.name ?? 'a deleted channel'} is ${stopAt.side} ${stopAt.value} ${unit ? UNITS[unit].symbol : ''}`.trim()
      : '',
  ].filter((text) => text !== '');
  const begins =
    startAt === null
      ? 'Starts manually'
      : daily
        ? `Starts every day at ${format(new Date(startAt), 'HH:mm')}, from ${format(new Date(startAt), 'd MMM')}`
        : `Starts ${format(new Date(startAt), 'd MMM, HH:mm')}`;
  return `${begins}; stops ${ends.length === 0 ? 'manually' : ends.join(' or ')}`;
}
