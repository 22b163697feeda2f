import type { MadeLink } from '@lucky-needle/core/model';
import { ask } from './ask.ts';

/** The most that one message brings. */
const A_MESSAGE = 200;

export type Values = Readonly<Record<string, number>>;

/**
 * Links a gadget that sends by itself, and says how it sends: so many rows, each made when its turn comes, at the gadget's own
 * pace by its own clock.
 */
export async function pushLink(gadgetId: string, rateHz: number) {
  const { link, token } = await ask<MadeLink>(`/gadgets/${gadgetId}/link`, 'POST', {
    settings: { kind: 'push' },
    mapping: null,
  });
  let seq = 0;
  return async (count: number, row: () => Values): Promise<void> => {
    for (let left = count; left > 0; left -= A_MESSAGE) {
      const readings = Array.from({ length: Math.min(left, A_MESSAGE) }, () => ({
        t: seq / rateHz,
        seq: seq++,
        values: row(),
      }));
      await ask(`/push/${link.id}`, 'POST', { readings }, { Authorization: `Bearer ${token}` });
    }
  };
}
