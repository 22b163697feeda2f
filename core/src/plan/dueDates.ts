import { calibrationDue } from '../calibrate/calibrationDue.ts';
import type { Calibration } from '../model/calibration.ts';
import type { DueItem } from '../model/due.ts';
import type { Gadget } from '../model/gadget.ts';
import type { OwnReference } from '../model/ownReference.ts';
import { dueState } from '../references/index.ts';
import { lowerFirst } from '../words/index.ts';

/**
 * What is to be checked again, the soonest first: references of the maker's own, and the calibration in use of every channel.
 * @param today such as 2026-04-30
 */
export function dueDates(
  gadgets: readonly { readonly gadget: Gadget; readonly calibrations: readonly Calibration[] }[],
  references: readonly OwnReference[],
  today: string,
): DueItem[] {
  const own = references.map((r): DueItem => ({
    kind: 'reference',
    id: r.id,
    title: r.title,
    detail: `last checked ${r.checkedOn}`,
    gadgetId: null,
    channelId: null,
    ...dueState(r, today),
  }));
  const inUse = gadgets.flatMap(({ gadget, calibrations }) =>
    calibrations.flatMap((c): DueItem[] => {
      const channel = gadget.channels.find((k) => k.id === c.channelId);
      if (c.state !== 'in use' || !channel) return [];
      return [
        {
          kind: 'calibration',
          id: c.id,
          title: gadget.channels.length > 1 ? `${gadget.name}: ${channel.name}` : gadget.name,
          detail: `calibration ${c.number}, ${lowerFirst(c.result.title)}, of ${c.createdAt.slice(0, 10)}`,
          gadgetId: gadget.id,
          channelId: c.channelId,
          ...calibrationDue(c, today),
        },
      ];
    }),
  );
  return [...own, ...inUse].toSorted(
    (a, b) => a.dueOn.localeCompare(b.dueOn) || a.title.localeCompare(b.title),
  );
}
