/**
 * Density of pure air-free water at 1013 hPa, kg/m3. Tanaka et al., Metrologia 38 (2001) 301, equation 1; 0 to 40 degC,
 * standard uncertainty below 0.001 kg/m3. From 40 to 90 degC: Kell, J. Chem. Eng. Data 20 (1975) 97, within 0.01 kg/m3.
 * @throws {RangeError} outside 0 to 90 degC
 */
export function waterDensity(celsius: number): number {
  if (!(celsius >= 0 && celsius <= 90))
    throw new RangeError(
      `Enter a water temperature from 0 to 90 °C; received ${celsius} °C. Let the water cool, or weigh it.`,
    );
  const t = celsius;
  if (t <= 40) return 999.97495 * (1 - ((t - 3.983035) ** 2 * (t + 301.797)) / (522528.9 * (t + 69.34881)));
  const top =
    999.83952 +
    t * (16.945176 + t * (-7.9870401e-3 + t * (-46.170461e-6 + t * (105.56302e-9 - t * 280.54253e-12))));
  return top / (1 + 16.87985e-3 * t);
}
