/**
 * The smallest range with round ends and a round step (1, 2 or 5 times a power of ten) that holds two values.
 * @param intervals about how many steps it should have
 */
export function niceRange(
  low: number,
  high: number,
  intervals = 8,
): { min: number; max: number; step: number } {
  const span = high - low || Math.abs(high) || 1;
  const power = 10 ** Math.floor(Math.log10(span / intervals));
  const lead = span / intervals / power;
  const step = (lead < 1.5 ? 1 : lead < 3 ? 2 : lead < 7 ? 5 : 10) * power;
  return { min: Math.floor(low / step + 1e-9) * step, max: Math.ceil(high / step - 1e-9) * step, step };
}
