import { useEffect, useState } from 'react';
import { liveClient } from './liveClient.ts';

/** Rows that are taken of the last minute, and how often. */
const ROWS = 9;
const [SOON_MS, EVERY_MS] = [500, 10_000];

/** Some raw rows of the last minute, one value a column; none while nothing has come. Taken anew now and then. */
export function useSeenRaw(columns: readonly string[]): readonly (readonly number[])[] {
  const key = columns.join('\n');
  const [seen, setSeen] = useState<{ readonly key: string; readonly rows: readonly number[][] }>({
    key,
    rows: [],
  });
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout>;
    const look = () => {
      const live = liveClient.current();
      const values = key.split('\n').map((name) => live.columns.get(name));
      const length = values[0]?.length ?? 0;
      const rows = values.includes(undefined)
        ? []
        : Array.from({ length: Math.min(ROWS, length) }, (_, k) => {
            const at = length - 1 - Math.floor((k * length) / ROWS);
            return values.map((column) => column![at]!);
          }).filter((row) => row.every(Number.isFinite));
      if (rows.length > 0) setSeen({ key, rows });
      timer = setTimeout(look, rows.length > 0 ? EVERY_MS : SOON_MS);
    };
    timer = setTimeout(look, 0);
    return () => clearTimeout(timer);
  }, [key]);
  return seen.key === key ? seen.rows : NONE;
}

const NONE: readonly (readonly number[])[] = [];
