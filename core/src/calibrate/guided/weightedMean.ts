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
