import { useEffect, useState } from 'react';
import type { SeenRows } from '@lucky-needle/core/plan';
import { liveClient } from './liveClient.ts';

/** Rows that are taken of the last minute, and how often. */
const ROWS = 9;
const [SOON_MS, EVERY_MS] = [500, 10_000];

const NONE: SeenRows = { columns: [], rows: [] };

/** Some raw rows of the last minute of the gadget that is linked; none while nothing has come. Taken anew now and then. */
export function useSeenRows(gadgetId: string | undefined): SeenRows {
  const [seen, setSeen] = useState<{ readonly of: string | null | undefined; readonly rows: SeenRows }>({
    of: undefined,
    rows: NONE,
  });
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout>;
    const look = () => {
      const { columns, gadgetId: of } = liveClient.current();
      const all = of === gadgetId ? [...columns] : [];
      const length = all[0]?.[1].length ?? 0;
      if (length > 0)
        setSeen({
          of,
          rows: {
            columns: all.map(([name]) => name),
            rows: Array.from({ length: Math.min(ROWS, length) }, (_, k) => {
              const at = length - 1 - Math.floor((k * length) / ROWS);
              return all.map(([, values]) => values[at]!);
            }),
          },
        });
      timer = setTimeout(look, length > 0 ? EVERY_MS : SOON_MS);
    };
    timer = setTimeout(look, 0);
    return () => clearTimeout(timer);
  }, [gadgetId]);
  return seen.of === gadgetId ? seen.rows : NONE;
}
