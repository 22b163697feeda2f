export interface PartLine {
  readonly title: string;
  readonly quantity: number;
  readonly unitPrice: number;
  /** Pieces that lie in the drawer. */
  readonly owned: number;
  /** Share of the price when bought second-hand, 1 for new. */
  readonly secondHand: number;
}

export interface CostResult {
  readonly lines: readonly { readonly title: string; readonly buy: number; readonly cost: number }[];
  readonly total: number;
  /** What the owned pieces would have cost. */
  readonly saved: number;
  readonly overBudget: number | null;
  readonly againstReadyMade: number | null;
  readonly sentence: string;
}

/** Cost of the parts that must be bought, against the budget and against a ready-made one, in the maker's own money. */
export function partsCost(
  parts: readonly PartLine[],
  budget: number | null,
  readyMade: number | null,
): CostResult {
  const lines = parts.map((p) => {
    if (!Number.isInteger(p.quantity) || p.quantity < 0 || !(p.unitPrice >= 0) || !(p.owned >= 0))
      throw new RangeError(
        `${p.title}: quantity and price must be 0 or more, and the quantity a whole number; received ${p.quantity} at ${p.unitPrice}.`,
      );
    const buy = Math.max(0, p.quantity - p.owned);
    return { title: p.title, buy, cost: buy * p.unitPrice * p.secondHand };
  });
  const total = lines.reduce((s, l) => s + l.cost, 0);
  const saved = parts.reduce((s, p) => s + Math.min(p.owned, p.quantity) * p.unitPrice, 0);
  const overBudget = budget === null ? null : total - budget;
  const againstReadyMade = readyMade === null ? null : readyMade - total;
  const words = [`${total.toFixed(2)} to buy${saved > 0 ? `, ${saved.toFixed(2)} already owned` : ''}.`];
  if (overBudget !== null)
    words.push(
      overBudget > 0
        ? `${overBudget.toFixed(2)} over the budget of ${budget!.toFixed(2)}.`
        : `${(-overBudget).toFixed(2)} of the budget left.`,
    );
  if (againstReadyMade !== null)
    words.push(
      againstReadyMade >= 0
        ? `${againstReadyMade.toFixed(2)} less than a ready-made product.`
        : `A ready-made product is ${(-againstReadyMade).toFixed(2)} cheaper.`,
    );
  return { lines, total, saved, overBudget, againstReadyMade, sentence: words.join(' ') };
}
