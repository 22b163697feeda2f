import { figureKind } from '../figures/index.ts';
import { compileLine } from '../line/compile.ts';
import type { Channel, ChannelBrief, Gadget } from '../model/gadget.ts';
import type { FigureSpec } from '../model/watch.ts';
import { LineError } from '../stage/contract.ts';
import type { UnitId } from '../units/index.ts';
import { briefOfAsk } from './briefFor.ts';
import { wholeLine } from './wholeLine.ts';

type Briefed = Pick<Gadget, 'brief' | 'channels' | 'sampleRateHz'>;

/** The figure that a channel's needle shows; null for its reading. */
export const shownFigure = (channel: Channel): FigureSpec | null =>
  channel.figures?.find((f) => f.id === channel.shows) ?? null;

/** Unit that a channel's line ends in; null while it does not run. */
export function readingUnit(gadget: Briefed, channel: Channel): UnitId | null {
  try {
    return compileLine(wholeLine(gadget, channel, []), { sampleRateHz: gadget.sampleRateHz }).outputs[0]!
      .unit;
  } catch (error) {
    if (error instanceof LineError) return null;
    throw error;
  }
}

/** Unit of a figure of a channel; null where it cannot be made. */
export function figureUnit(gadget: Briefed, channel: Channel, spec: FigureSpec): UnitId | null {
  const unit = readingUnit(gadget, channel);
  const others = spec.others.map((id) => {
    const other = gadget.channels.find((c) => c.id === id);
    return other ? readingUnit(gadget, other) : null;
  });
  if (unit === null || others.includes(null)) return null;
  const kind = figureKind(spec.kind);
  return kind?.unit({ ...kind.defaults, ...spec.params }, unit, others as UnitId[]) ?? null;
}

/** What a figure is judged by: its own ask, or that of the channel whose needle it is on; null for one that nobody asked for. */
export function figureBrief(gadget: Briefed, channel: Channel, spec: FigureSpec): ChannelBrief | null {
  const askId = spec.askId ?? (spec.id === channel.shows ? channel.askId : null);
  const ask = gadget.brief?.asks.find((a) => a.id === askId);
  return gadget.brief && ask ? briefOfAsk(gadget.brief, ask) : null;
}

/** Asks of the brief that a figure answers, beside those that channels stand for. */
export const askedOfFigures = (channels: readonly Channel[]): Set<string> =>
  new Set(channels.flatMap((c) => (c.figures ?? []).flatMap((f) => (f.askId === null ? [] : [f.askId]))));
