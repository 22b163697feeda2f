import { fixColumnOf } from './positionColumns.ts';
import type { TableColumn } from './tableSink.ts';

const plain = (name: string) => name.toLowerCase().replace(/[^a-z0-9]/g, '');

/**
 * Which of a gadget's raw columns each column of a file most likely is: by its name, with or without "raw" after it, or by
 * another name for the same part of a position. A file that names some of its columns raw has only those; one column alone is the one that there is.
 * @returns for each column of the file a raw column's name, or null
 */
export function matchColumns(columns: readonly TableColumn[], raw: readonly string[]): (string | null)[] {
  const marked = columns.some((c) => / raw$/i.test(c.name));
  const taken = new Set<string>();
  const names = new Set(columns.map((c) => plain(c.name.replace(/ raw$/i, ''))));
  const found = columns.map((c) => {
    if (marked && !/ raw$/i.test(c.name)) return null;
    const name = plain(c.name.replace(/ raw$/i, ''));
    const free = raw.filter((r) => !taken.has(r));
    const means = fixColumnOf(c.name);
    const match =
      free.find((r) => plain(r) === name) ??
      free.find((r) => means !== null && fixColumnOf(r) === means && !names.has(plain(r))) ??
      null;
    if (match) taken.add(match);
    return match;
  });
  return found.every((f) => f === null) && columns.length === 1 && raw.length === 1 && !marked
    ? [raw[0]!]
    : found;
}
