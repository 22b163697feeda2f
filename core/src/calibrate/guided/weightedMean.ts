export interface Weighted {
  readonly value: number;
  /** Standard uncertainty, widened by the Birge ratio. */
  readonly u: number;
  /** How much more the values differ than their uncertainties say; 1 where they do not. */
  readonly birge: number;
}

/** Mean of values weighted by 1/u^2. @param each one or more, with standard uncertainties above 0 */
export function weightedMean(each: readonly { readonly value: number; readonly u: number }[]): Weighted {
  const weights = each.map((e) => 1 / e.u ** 2);
  const total = weights.reduce((a, b) => a + b, 0);
  const value = each.reduce((s, e, i) => s + e.value * weights[i]!, 0) / total;
  const chi = each.reduce((s, e) => s + ((e.value - value) / e.u) ** 2, 0);
  const birge = each.length > 1 ? Math.max(1, Math.sqrt(chi / (each.length - 1))) : 1;
  return { value, u: birge / Math.sqrt(total), birge };
}

/**
 * The same of values that were all read against one reference: what that is wrong by is the same in all, and averages away
 * in none.
 * @param each with standard uncertainties by itself and by the reference; not both 0
 */
export function sharedMean(
  each: readonly { readonly value: number; readonly uOwn: number; readonly uReference: number }[],
): Weighted {
  const all = each.map((e) => ({ value: e.value, u: Math.hypot(e.uOwn, e.uReference) }));
  const { value, birge } = weightedMean(all);
  const weights = all.map((e) => 1 / e.u ** 2);
  const total = weights.reduce((a, b) => a + b, 0);
  const own = Math.sqrt(each.reduce((s, e, i) => s + (weights[i]! * e.uOwn) ** 2, 0)) / total;
  const common = each.reduce((s, e, i) => s + weights[i]! * e.uReference, 0) / total;
  // Values that differ more than all of that explains scatter by themselves, whatever was said of them.
  const apart = birge > 1 ? birge / Math.sqrt(total) : own;
  return { value, u: Math.hypot(Math.max(own, apart), common), birge };
}
