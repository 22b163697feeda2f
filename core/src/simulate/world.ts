import type { InstrumentBeside } from '../references/index.ts';

export type Instrument = InstrumentBeside;

/** A made-up piece of the world with sensors in it. Knows no clock: the caller says how much time passes. */
export interface World {
  readonly columns: readonly string[];
  readonly conditions: readonly { readonly id: string; readonly title: string }[];
  readonly condition: string;
  /** @throws {RangeError} for a condition it does not have */
  setCondition(id: string): void;
  /** Lets time pass and reads every sensor once, as raw counts. */
  step(dtS: number): number[];
  /** Instruments of known accuracy that stand beside the sensors. */
  instruments(): Instrument[];
}
