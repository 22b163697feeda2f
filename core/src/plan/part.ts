import type { StageSpec } from '../model/line.ts';
import type { UnitId } from '../units/index.ts';

interface PartBase {
  readonly id: string;
  readonly title: string;
  readonly summary: string;
  /** In the maker's own money, a plausible middle. */
  readonly price: number;
}

/** How a sensor's reading comes about: through the board's converter, or as a number of its own. */
export type SensorSignal =
  | {
      readonly kind: 'analog';
      /** Stages that follow the converter, with as-bought uncertainties. */
      readonly stages: readonly StageSpec[];
      readonly noiseCounts: number;
    }
  | {
      readonly kind: 'digital';
      readonly step: number;
      readonly stepUnit: UnitId;
      readonly bus: 'SPI' | 'one-wire' | 'I2C';
    };

export interface SensorPart extends PartBase {
  readonly kind: 'sensor';
  readonly quantity: string;
  readonly unit: UnitId;
  readonly low: number;
  readonly high: number;
  readonly signal: SensorSignal;
  /** Half-width at a reading, as bought, in the part's unit; for analog parts what the line's own constants do not cover. */
  accuracyAt(value: number): number;
  /** Half-width that is left after a true-up: drift, hysteresis, noise. */
  readonly afterTrueUp: number;
  /** Time for one reading, s. */
  readonly readingS: number;
}

export interface BoardPart extends PartBase {
  readonly kind: 'board';
  readonly adcBits: number;
  readonly referenceV: number;
  readonly analogPins: readonly string[];
  /** Pins that a bus takes when something hangs on it. */
  readonly busPins: Readonly<Record<string, readonly string[]>>;
}

export interface DisplayPart extends PartBase {
  readonly kind: 'display';
  readonly columns: number;
  readonly rows: number;
  readonly bus: 'I2C' | 'SPI';
  readonly refreshS: number;
}

export type Part = SensorPart | BoardPart | DisplayPart;
