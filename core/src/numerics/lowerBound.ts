/**
 * First index whose value is at or above the given one, by bisection.
 * @param values rising
 * @returns 0 to values.length
 */
export function lowerBound(values: ArrayLike<number>, value: number): number {
  let low = 0;
  let high = values.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (values[middle]! < value) low = middle + 1;
    else high = middle;
  }
  return low;
}
