/** The smallest range with round ends and a round step (1, 2 or 5 times a power of ten) that holds two values. */
export function niceRange(low: number, high: number): { min: number; max: number; step: number } {
  const span = high - low || Math.abs(high) || 1;
  const power = 10 ** Math.floor(Math.log10(span / 8));
  const lead = span / 8 / power;
  const step = (lead < 1.5 ? 1 : lead < 3 ? 2 : lead < 7 ? 5 : 10) * power;
  return { min: Math.floor(low / step + 1e-9) * step, max: Math.ceil(high / step - 1e-9) * step, step };
}
