import type { LinkFaults } from '@lucky-needle/core/model';
import type { Instrument } from '@lucky-needle/core/simulate';

/** Where a link's text comes from. Push and cable links have none of their own: their text is brought to them. */
export interface LinkSource {
  /** False while the cable is out. */
  readonly plugged: boolean;
  /** What hinders it, in words; null when all is well. */
  readonly problem: string | null;
  readonly simulated: SimulatedControls | null;
  /** Tells the other end how one of the gadget's alarms stands; not there where nobody listens. */
  tellAlarm?(ruleId: string, text: string): void;
  stop(): void;
}

export interface SimulatedControls {
  speed: number;
  plugged: boolean;
  faults: LinkFaults;
  readonly conditions: readonly { readonly id: string; readonly title: string }[];
  readonly condition: string;
  /** @throws {RangeError} for a condition it does not have */
  setCondition(id: string): void;
  instruments(): Instrument[];
}

/** What a passive source is: it waits for what is brought. */
export const PASSIVE: LinkSource = {
  plugged: true,
  problem: null,
  simulated: null,
  stop: () => undefined,
};
