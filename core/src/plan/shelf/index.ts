import type { Part, PartKind } from '../../model/part.ts';
import { BOARDS } from './boards.ts';
import { CONVERTERS } from './converters.ts';
import { DISPLAYS } from './displays.ts';
import { SENSORS } from './sensors/index.ts';
import { CONNECTORS, PASSIVES, SOUNDERS } from './small.ts';
import { SUPPLIES } from './supplies.ts';

/** The parts that come with the bench. A new one is one entry in its kind's file. */
export const SHELF: readonly Part[] = [
  ...SENSORS,
  ...CONVERTERS,
  ...DISPLAYS,
  ...BOARDS,
  ...SUPPLIES,
  ...SOUNDERS,
  ...CONNECTORS,
  ...PASSIVES,
];

/** Parts of one kind, in shelf order. */
export function partsOf<K extends PartKind>(parts: readonly Part[], kind: K): Extract<Part, { kind: K }>[] {
  return parts.filter((p): p is Extract<Part, { kind: K }> => p.kind === kind);
}

/** The part of a kind with an id, or null: a part may have left the shelf since it was picked. */
export function findPart<K extends PartKind>(
  parts: readonly Part[],
  kind: K,
  id: string | null | undefined,
): Extract<Part, { kind: K }> | null {
  return partsOf(parts, kind).find((p) => p.id === id) ?? null;
}

/** The bench's own shelf and the maker's parts together; a part of the maker's stands in for one of the same id. */
export function shelfWith(own: readonly Part[]): Part[] {
  const ids = new Set(own.map((p) => p.id));
  return [...own, ...SHELF.filter((p) => !ids.has(p.id))];
}

export { blankPart } from './blank.ts';
export { BOARDS, CONVERTERS, DISPLAYS, SENSORS, SOUNDERS, SUPPLIES };
