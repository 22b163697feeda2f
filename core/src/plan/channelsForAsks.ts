import type { Ask, Channel } from '../model/gadget.ts';
import { channelsOf, goesOnFromAlike } from './briefFor.ts';
import { askedOfFigures } from './shown.ts';

/**
 * The channels of a changed brief: as many for each ask as wanted. Channels that are there stay, in order, with their lines
 * and names, and so do those that go on from them; what is missing starts as a raw column; what is too many or has lost its
 * ask goes.
 * @param counts wanted channels by ask id; 1 where an ask is not named
 */
export function channelsForAsks(
  asks: readonly Ask[],
  counts: Readonly<Record<string, number>>,
  present: readonly Channel[],
): Channel[] {
  const used = new Set(present.map((c) => c.id));
  const ofFigures = askedOfFigures(present);
  const fresh = (): string => {
    for (let n = 1; ; n++) {
      if (used.has(`c${n}`)) continue;
      used.add(`c${n}`);
      return `c${n}`;
    }
  };
  return asks.flatMap((ask) => {
    // What a figure of another channel answers needs no channel of its own.
    const wanted = counts[ask.id] ?? (ofFigures.has(ask.id) ? 0 : 1);
    const own = channelsOf({ channels: present }, ask);
    const kept = own.slice(0, wanted);
    const gone = new Set(own.slice(wanted).map((c) => c.id));
    const behind = present.filter(
      (c) => c.askId === ask.id && goesOnFromAlike(present, c) && !gone.has(rootOf(present, c).id),
    );
    const added = Array.from({ length: wanted - kept.length }, (_, i): Channel => {
      const id = fresh();
      return {
        id,
        askId: ask.id,
        name: wanted === 1 ? ask.quantity : `${ask.quantity} ${kept.length + i + 1}`,
        line: { sources: [{ column: id, unit: 'count' }], stages: [] },
      };
    });
    return [...kept, ...added, ...behind];
  });
}

/** The first of the same ask that a channel goes on from. */
function rootOf(channels: readonly Channel[], channel: Channel): Channel {
  const seen = new Set<Channel>();
  let now = channel;
  while (goesOnFromAlike(channels, now) && !seen.has(now)) {
    seen.add(now);
    now = channels.find((c) => c.id === now.feed!.channelId)!;
  }
  return now;
}
