import type { LineEdit } from '../../model/line.ts';

export interface SlipObservation {
  readonly shown: number;
  readonly expected: number;
  /** Raw value behind it, for slips in the line itself. */
  readonly raw?: number;
}

/** Something that is done wrongly, as it would show. */
export interface Slip {
  readonly ids: readonly string[];
  readonly title: string;
  /** The one step that would confirm it. */
  readonly test: string;
  /** How seldom it is met; each tolerance of misfit costs as much as one. */
  readonly cost: number;
  /** Change of the line that takes it out, where there is one. */
  readonly edit: LineEdit | null;
  /** What would be read without it. */
  correct(observation: SlipObservation): number;
}

/** A slip that multiplies the reading. */
export interface FactorSlip extends Slip {
  /** Shown over true. */
  readonly factor: number;
}
