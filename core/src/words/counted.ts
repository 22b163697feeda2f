/**
 * A number with its noun: "1 pair", "3 pairs", "no pairs" stays "0 pairs".
 * @param n how many
 * @param one the noun for one
 * @param many the noun for any other number; `one` with an s when not given
 */
export const counted = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`;

/** A list as a sentence has it: "a", "a and b", "a, b and c". */
export const listed = (items: readonly string[]): string =>
  items.length < 2 ? (items[0] ?? '') : `${items.slice(0, -1).join(', ')} and ${items.at(-1)}`;
