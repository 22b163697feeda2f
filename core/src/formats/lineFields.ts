import type { LineMapping } from '../model/lineMapping.ts';
import { pairsIn } from './pairs.ts';

/** A field of a line: its name, or its place from 1 where lines name none, and what stands there. */
export type Fields = ReadonlyMap<string, string>;

/** Deeper and longer objects than any gadget sends are ignored. */
const MAX_DEPTH = 4;
const MAX_FIELDS = 200;

/** Cuts a line into its fields; null when it is not of that format. Sentences have none that stand alone: see mappedReader. */
export function lineFields(
  text: string,
  { format, delimiter }: Pick<LineMapping, 'format' | 'delimiter'>,
): Fields | null {
  const line = text.trim();
  switch (format) {
    case 'separated': {
      // An empty field between two separators must stay one, or every later value would slide into its neighbour's place.
      const parts = delimiter === ' ' ? line.split(/ +/) : line.split(delimiter);
      return parts.length > MAX_FIELDS ? null : new Map(parts.map((p, i) => [String(i + 1), p.trim()]));
    }
    case 'pairs': {
      const found = pairsIn(line).map(({ name, value }) => [name, value] as const);
      return found.length === 0 || found.length > MAX_FIELDS ? null : new Map(found);
    }
    case 'json':
      return jsonFields(line);
    case 'sentences':
      return null;
  }
}

/** Numbers and texts of an object by their path, such as "env.temp" or "adc.0"; null when the line is no object. */
function jsonFields(line: string): Fields | null {
  if (!line.startsWith('{') && !line.startsWith('[')) return null;
  let value: unknown;
  try {
    value = JSON.parse(line);
  } catch {
    return null;
  }
  const found = new Map<string, string>();
  const walk = (node: unknown, path: string, depth: number): void => {
    if (found.size > MAX_FIELDS) return;
    if (typeof node === 'number' || typeof node === 'string') found.set(path, String(node));
    else if (node === null) found.set(path, '');
    else if (typeof node === 'object' && depth < MAX_DEPTH)
      for (const [key, inner] of Object.entries(node))
        walk(inner, path === '' ? key : `${path}.${key}`, depth + 1);
  };
  walk(value, '', 0);
  return found.size === 0 || found.size > MAX_FIELDS ? null : found;
}
