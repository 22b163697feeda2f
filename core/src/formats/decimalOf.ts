import { POWERS_OF_TEN } from './powersOfTen.ts';

/** Each power cut into two halves whose products with halves of another double are exact (Veltkamp). */
const SPLIT = 2 ** 27 + 1;
const HIGH = Float64Array.from(POWERS_OF_TEN, (p) => SPLIT * p - (SPLIT * p - p));
const LOW = Float64Array.from(POWERS_OF_TEN, (p, k) => p - HIGH[k]!);
/** More than the error of what is below, less than what a rounding could turn on. */
const DOUBT = 2 ** -44;

/**
 * The double nearest to (head · 10^n + tail) / 10^places, as reading the decimal itself would give it, for numbers with more
 * digits than a double holds. Worked out with twice the digits (Dekker 1971).
 * @param head whole, below 1e15
 * @param n 0 to 9
 * @param tail whole, below 1e9
 * @param places 0 to 22
 * @returns NaN in the rare case that lies too close to the middle between two doubles to be told so
 */
export function decimalOf(head: number, n: number, tail: number, places: number): number {
  // The digits, exactly: a rounded product, what rounding left, and the tail added with what that left.
  const product = head * POWERS_OF_TEN[n]!;
  const sum = product + tail;
  const added = sum - product;
  const rest = product - (sum - added) + (tail - added) + leftOf(head, n, product);
  if (places === 0) return settled(sum, rest);
  const divisor = POWERS_OF_TEN[places]!;
  const quotient = sum / divisor;
  const back = quotient * divisor;
  return settled(quotient, (sum - back - leftOf(quotient, places, back) + rest) / divisor);
}

/** What rounding left of a · 10^k, exactly. */
function leftOf(a: number, k: number, product: number): number {
  const c = SPLIT * a;
  const high = c - (c - a);
  const low = a - high;
  return high * HIGH[k]! - product + high * LOW[k]! + low * HIGH[k]! + low * LOW[k]!;
}

/** The sum, where a little more or less of the small part rounds to the same. */
function settled(large: number, small: number): number {
  const more = large + small * (1 + DOUBT);
  return more === large + small * (1 - DOUBT) ? more : Number.NaN;
}
