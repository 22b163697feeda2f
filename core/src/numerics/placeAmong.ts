import { lowerBound } from './lowerBound.ts';

/** A place between two of many, or at an end. */
export interface PlaceAmong {
  /** Straight lines between what stands at the places: its value there. */
  between(column: readonly number[]): number;
}

/** Where a value lies among places, which rise and are one at least: on straight lines between them, at its end beyond them. */
export function placeAmong(places: readonly number[], value: number): PlaceAmong {
  const last = places.length - 1;
  const next = Math.min(last, Math.max(Math.min(1, last), lowerBound(places, value)));
  const k = Math.max(0, next - 1);
  const width = places[next]! - places[k]!;
  const share = width > 0 ? Math.min(1, Math.max(0, (value - places[k]!) / width)) : 0;
  return { between: (column) => column[k]! + share * (column[next]! - column[k]!) };
}
