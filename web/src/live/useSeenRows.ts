import { useEffect, useState } from 'react';
import { seenRows, type SeenRows } from '@lucky-needle/core/plan';
import { liveClient, type LiveSnapshot } from './liveClient.ts';

/** How often rows are taken of the last minute. */
const [SOON_MS, EVERY_MS] = [500, 10_000];

const NONE: SeenRows = { columns: [], rows: [], now: {}, figures: {} };

/** The newest reading of each channel, with what the bench has told of it. */
function nowOf({ readings, counts }: LiveSnapshot): SeenRows['now'] {
  return Object.fromEntries(
    [...readings].flatMap(([id, stages]) => {
      const reading = stages.at(-1)?.values.at(-1) ?? Number.NaN;
      return Number.isFinite(reading) ? [[id, { reading, u: counts.get(id)?.worth ?? null }]] : [];
    }),
  );
}

const figuresOf = ({ counts }: LiveSnapshot): SeenRows['figures'] =>
  Object.fromEntries([...counts].map(([id, { figures }]) => [id, figures]));

/** Some raw rows of the last minute of the gadget that is linked; none while nothing has come. Taken anew now and then. */
export function useSeenRows(gadgetId: string | undefined): SeenRows {
  const [seen, setSeen] = useState<{ readonly of: string | null | undefined; readonly rows: SeenRows }>({
    of: undefined,
    rows: NONE,
  });
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout>;
    const look = () => {
      const live = liveClient.current();
      const { columns, gadgetId: of } = live;
      const all = of === gadgetId ? [...columns] : [];
      const length = all[0]?.[1].length ?? 0;
      if (length > 0) setSeen({ of, rows: seenRows(all, nowOf(live), figuresOf(live)) });
      timer = setTimeout(look, length > 0 ? EVERY_MS : SOON_MS);
    };
    timer = setTimeout(look, 0);
    return () => clearTimeout(timer);
  }, [gadgetId]);
  return seen.of === gadgetId ? seen.rows : NONE;
}
