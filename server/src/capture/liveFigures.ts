import type { Gadget, ServerMessage } from '@lucky-needle/core/model';
import { nowFigures, seenEvent } from '@lucky-needle/core/plan';
import type { WatchedEvent } from '@lucky-needle/core/detect';
import type { LiveBench } from './liveBench.ts';

type FiguresMessage = Extract<ServerMessage, { type: 'figures' }>;

/** What is counted on a gadget and made of it, and what readings tell of themselves, as pages are told; null where nothing is. */
export function liveFigures(
  gadget: Gadget,
  live: LiveBench,
  eventsOf: (channelId: string) => readonly WatchedEvent[],
): FiguresMessage | null {
  const channels = gadget.channels
    .filter((c) => (c.watches?.length ?? 0) + (c.figures?.length ?? 0) > 0 || live.worth(c.id) !== null)
    .map((channel) => ({
      channelId: channel.id,
      problem: live.watchProblem(channel.id),
      worth: live.worth(channel.id),
      figures: nowFigures(gadget, channel, live.figures(channel.id)),
      events: eventsOf(channel.id).map(seenEvent),
    }));
  return channels.length > 0 ? { type: 'figures', gadgetId: gadget.id, channels } : null;
}
