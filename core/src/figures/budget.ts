/** What is known of readings: standard uncertainties in their unit, NaN where nothing is. */
export interface ReadingBudget {
  /** From the constants of the line and from the sensor itself: the same for readings of the same size. */
  readonly systematic: number;
  /** From noise: another for each reading. */
  readonly noise: number;
}

/** What the picked sensor is good to by itself, in the unit of the readings: as bought, or what a true-up leaves. */
export interface SensorShare {
  /** Standard uncertainty of a reading at its own zero. */
  readonly fixed: number;
  /** What comes to it for each unit that a reading lies off that zero. */
  readonly share: number;
  readonly zero: number;
  /** Standard uncertainty of the difference of two readings, for each unit that they lie apart. */
  readonly tilt: number;
  /** Standard deviation of single readings where it is all there is to be known of them; null where the line must say. */
  readonly noiseAlone: number | null;
}

/** What readings are worth, and what two of them are worth against each other. */
export interface Budget {
  (value: number): ReadingBudget;
  /** Standard uncertainty of the difference of two readings, noise apart: what is the same in both goes out of it. */
  apart(from: number, to: number): number;
}

/**
 * The line's part and the sensor's own put together.
 * @param line what constants and noise make of a reading @param sensor null where nobody says what it is good to
 */
export function budgetWith(line: (value: number) => ReadingBudget, sensor: SensorShare | null): Budget {
  const at = (value: number): ReadingBudget => {
    const of = line(value);
    if (!sensor) return of;
    const own = Math.hypot(sensor.fixed, sensor.share * (value - sensor.zero));
    return sensor.noiseAlone !== null && Number.isNaN(of.systematic)
      ? { systematic: own, noise: sensor.noiseAlone }
      : { systematic: Math.hypot(of.systematic, own), noise: of.noise };
  };
  const apart = (from: number, to: number) => {
    const ofLine = line(to).systematic - line(from).systematic;
    if (!sensor) return Math.abs(ofLine);
    const isAlone = sensor.noiseAlone !== null && Number.isNaN(ofLine);
    return Math.hypot(isAlone ? 0 : ofLine, sensor.tilt * (to - from));
  };
  return Object.assign(at, { apart });
}
