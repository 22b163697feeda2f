import type { Instrument, World } from './world.ts';

interface WorldDeclaration {
  readonly columns: readonly string[];
  /** The first is the one it starts in. */
  readonly conditions: readonly { readonly id: string; readonly title: string }[];
  /** Lets time pass in the present condition and reads the sensors. @param sinceS time in this condition, dtS counted in */
  step(dtS: number, condition: string, sinceS: number): number[];
  instruments(condition: string, sinceS: number): Instrument[];
  /** Called when the condition changes. */
  enter?(condition: string): void;
}

/** A world of conditions that the maker switches between; keeps the time spent in each. */
export function makeWorld({ columns, conditions, step, instruments, enter }: WorldDeclaration): World {
  let condition = conditions[0]!.id;
  let sinceS = 0;
  return {
    columns,
    conditions,
    get condition() {
      return condition;
    },
    setCondition(id) {
      if (!conditions.some((c) => c.id === id))
        throw new RangeError(`Unknown condition “${id}”. Choose ${conditions.map((c) => c.id).join(', ')}.`);
      if (id === condition) return;
      condition = id;
      sinceS = 0;
      enter?.(id);
    },
    step(dtS) {
      sinceS += dtS;
      return step(dtS, condition, sinceS);
    },
    // What an instrument is good to is told in two digits, as on its paper.
    instruments: () =>
      instruments(condition, sinceS).map((i) => ({
        ...i,
        uncertainty: Number(i.uncertainty.toPrecision(2)),
      })),
  };
}

/** A whole code between the ends of a converter. */
export function toCode(value: number, low: number, high: number): number {
  return Math.min(high, Math.max(low, Math.round(value)));
}
