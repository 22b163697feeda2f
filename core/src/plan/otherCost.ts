import type { GadgetPlan } from './gadgetPlan.ts';

/** What the picks in all other slots cost, less what lies in the drawer. */
export function otherCost(plan: GadgetPlan, slot: string): number {
  const cost = (id: string, price: number, pieces: number) => {
    const extra = plan.hookup.extras.find((e) => e.partId === id);
    return Math.max(0, pieces - (extra?.owned ?? 0)) * price * (extra?.secondHand ?? 1);
  };
  const slots = plan.sensing.reduce(
    (sum, s) =>
      s.ask.id === slot
        ? sum
        : sum +
          (s.part ? cost(s.part.id, s.part.price, s.pieces) : 0) +
          (s.converter ? cost(s.converter.id, s.converter.price, s.converterPieces) : 0),
    0,
  );
  return (['board', 'display', 'supply', 'sounder'] as const).reduce(
    (sum, name) => (name === slot || !plan[name] ? sum : sum + cost(plan[name].id, plan[name].price, 1)),
    slots,
  );
}
