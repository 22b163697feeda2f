import type { Channel, Gadget } from '../model/gadget.ts';
import type { Part } from '../model/part.ts';
import type { SensorOwn } from '../prove/sensorOwn.ts';
import { findPart } from './shelf/index.ts';

/**
 * The sensor that is picked for what a channel stands for; of what is worked out from several, the slowest of them. It may
 * feel another quantity than the channel shows: then only its time constant says something of it. Null where none is picked.
 */
export function sensorOf(gadget: Gadget, channel: Channel, parts: readonly Part[]): SensorOwn | null {
  const picked = (slot: string) =>
    findPart(parts, 'sensor', gadget.picks.find((p) => p.slot === slot)?.partId);
  const asks = gadget.brief?.asks ?? [];
  if (asks.find((a) => a.id === channel.askId)?.measurand !== 'worked out') return picked(channel.askId);
  const all = asks.flatMap((a) => picked(a.id) ?? []);
  return all.toSorted((a, b) => b.responseS - a.responseS)[0] ?? null;
}
