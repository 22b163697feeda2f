import { cleanAirLevel } from '../calibrate/cleanAirLevel.ts';
import type { Channel, Gadget } from '../model/gadget.ts';
import { printNominal, UNITS, type UnitId } from '../units/index.ts';
import { isOverChannels } from './wholeLine.ts';

/** So many times its clean air another element must read, and so many times what this one does, before it may be what this one sees. */
const FAR_ABOVE = 3;

/** A reading that ends a channel's line, in its own unit; NaN while there is none. */
export interface ReadNow {
  readonly value: number;
  readonly unit: UnitId;
}

/**
 * What a maker should know of a heated element that may only show its neighbour's gas: another one reads far more, and nobody
 * has measured what this one answers to that. Null where that is taken off, or nothing speaks for it.
 */
export function besideOthers(
  gadget: Pick<Gadget, 'channels' | 'sampleRateHz'>,
  channel: Channel,
  readOf: (channelId: string) => ReadNow | null,
): string | null {
  const context = { sampleRateHz: gadget.sampleRateHz };
  if (channel.line.stages.some((s) => s.kind === 'less-others' && isOverChannels(s))) return null;
  const clean = cleanAirLevel(channel.line, context);
  const own = readOf(channel.id);
  // What does not rise above its clean air shows nobody's gas.
  if (clean === null || own === null || !(own.value > 1.2 * clean)) return null;
  for (const other of gadget.channels) {
    const theirs = other.id === channel.id ? null : cleanAirLevel(other.line, context);
    const read = theirs === null ? null : readOf(other.id);
    if (!read || read.unit !== own.unit) continue;
    if (read.value > FAR_ABOVE * theirs! && read.value > FAR_ABOVE * own.value)
      return `${other.name} reads ${printNominal(read.value, 3)} ${UNITS[read.unit].symbol}. A gas sensor also responds a little to other gases, so the ${channel.name} reading may be caused by that one. Measure the cross-sensitivity on True-up.`;
  }
  return null;
}
