/** The same numbers with room for twice as many. */
export function larger(old: Float64Array): Float64Array<ArrayBuffer> {
  const next = new Float64Array(2 * old.length);
  next.set(old);
  return next;
}
