import { compileLine } from '../line/compile.ts';
import { LineError } from '../stage/contract.ts';
import type { Ask, Brief, Channel, ChannelBrief, Gadget } from '../model/gadget.ts';
import { convertDifference, UNITS, type UnitId } from '../units/index.ts';

/** One ask with what the whole brief says. */
export function briefOfAsk(brief: Brief, ask: Ask): ChannelBrief {
  const { asks: _asks, ...shared } = brief;
  return { ...shared, ...ask };
}

/** The same for what a sensor must feel: range and tolerance are those of the sensed quantity where it differs from the shown one. */
export function sensedBrief(brief: Brief, ask: Ask): ChannelBrief {
  return { ...briefOfAsk(brief, ask), ...ask.sensed };
}

/**
 * What a channel is judged by: its ask as shown, or as sensed where its line ends in the sensed quantity.
 * @returns null without a brief, or when the channel's ask has left it
 */
export function briefFor(
  gadget: Pick<Gadget, 'brief' | 'sampleRateHz'>,
  channel: Channel,
): ChannelBrief | null {
  const { brief } = gadget;
  const ask = brief?.asks.find((a) => a.id === channel.askId);
  if (!brief || !ask) return null;
  if (!ask.sensed) return briefOfAsk(brief, ask);
  const end = endUnit(gadget, channel);
  const inSensed = end !== null && UNITS[end].dimension === UNITS[ask.sensed.unit].dimension;
  const inShown = end !== null && UNITS[end].dimension === UNITS[ask.unit].dimension;
  return inSensed && !inShown ? sensedBrief(brief, ask) : briefOfAsk(brief, ask);
}

function endUnit({ sampleRateHz }: Pick<Gadget, 'sampleRateHz'>, channel: Channel) {
  try {
    return compileLine(channel.line, { sampleRateHz }).outputs[0]!.unit;
  } catch (error) {
    // A line that does not compile has no end; the Line page says why.
    if (error instanceof LineError) return null;
    throw error;
  }
}

/** The tolerance in another unit; null without a brief, or when the unit is of another quantity. */
export function toleranceIn(brief: ChannelBrief | null, unit: UnitId): number | null {
  return brief && UNITS[brief.unit].dimension === UNITS[unit].dimension
    ? convertDifference(brief.tolerance, brief.unit, unit)
    : null;
}

/** Channels of an ask that have a sensor of their own, in order: one that goes on from another of them has its. */
export const channelsOf = (
  { channels }: { readonly channels: readonly Channel[] },
  ask: Pick<Ask, 'id'>,
): Channel[] => channels.filter((c) => c.askId === ask.id && !goesOnFromAlike(channels, c));

/** Whether a channel goes on from another of the same ask. */
export const goesOnFromAlike = (channels: readonly Channel[], { feed, askId }: Channel): boolean =>
  feed ? channels.find((c) => c.id === feed.channelId)?.askId === askId : false;
