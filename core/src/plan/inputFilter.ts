/** E-series values of one decade, IEC 60063:2015: E24 by the standard's own rounding, E96 by three digits of 10^(i/96). */
const E24 = [
  1, 1.1, 1.2, 1.3, 1.5, 1.6, 1.8, 2, 2.2, 2.4, 2.7, 3, 3.3, 3.6, 3.9, 4.3, 4.7, 5.1, 5.6, 6.2, 6.8, 7.5, 8.2,
  9.1,
];
const SERIES = {
  E6: E24.filter((_, i) => i % 4 === 0),
  E12: E24.filter((_, i) => i % 2 === 0),
  E24,
  E96: Array.from({ length: 96 }, (_, i) => Math.round(100 * 10 ** (i / 96)) / 100),
} as const;
export type ESeries = keyof typeof SERIES;

/** The values of a series between two ends, rising. */
export function eSeriesBetween(series: ESeries, low: number, high: number): number[] {
  if (!(low > 0) || !(high >= low))
    throw new RangeError(`The range must start above 0 and rise; received ${low} to ${high}.`);
  const found: number[] = [];
  for (let decade = Math.floor(Math.log10(low)); decade <= Math.floor(Math.log10(high)); decade++)
    for (const v of SERIES[series]) {
      // Powers of ten are written out, or 4.7 x 10^3 would not be 4700.
      const value = Number(`${v}e${decade}`);
      if (value >= low * (1 - 1e-12) && value <= high * (1 + 1e-12)) found.push(value);
    }
  return found;
}

/** The value of a series nearest in ratio. */
export function nearestInSeries(series: ESeries, value: number): number {
  const near = eSeriesBetween(series, value / 3, value * 3);
  return near.reduce((best, v) =>
    Math.abs(Math.log(v / value)) < Math.abs(Math.log(best / value)) ? v : best,
  );
}

/**
 * An RC before the converter: corner 1 / (2 pi R C) and settling to half a code, R C ln 2^(bits + 1), against the sample
 * period when the input is switched between channels.
 */
export function inputFilter(
  ohm: number,
  farad: number,
  bits: number,
  sampleRateHz: number,
  switched: boolean,
) {
  if (!(ohm > 0 && farad > 0))
    throw new RangeError(
      `A filter needs a resistor and a capacitor above 0; received ${ohm} ohm and ${farad} F.`,
    );
  const tau = ohm * farad;
  const cornerHz = 1 / (2 * Math.PI * tau);
  const settlingS = tau * Math.log(2 ** (bits + 1));
  return {
    cornerHz,
    settlingS,
    /** Interferers above half the rate should lie well above the corner. */
    guardsAliases: cornerHz < sampleRateHz / 2,
    settles: !switched || settlingS < 1 / sampleRateHz,
  };
}

/** Heat in a sensor of a divider, P = V^2 R / (R + Rs)^2, and the error it makes: P over what the sensor sheds a kelvin. */
export function selfHeating(supplyV: number, sensorOhm: number, seriesOhm: number, wattsPerKelvin: number) {
  if (!(wattsPerKelvin > 0))
    throw new RangeError(`The dissipation constant must be above 0 W/K; received ${wattsPerKelvin}.`);
  const watts = (supplyV ** 2 * sensorOhm) / (sensorOhm + seriesOhm) ** 2;
  return { watts, errorK: watts / wattsPerKelvin };
}
