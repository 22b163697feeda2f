import Papa from 'papaparse';
import type { Part } from '../model/part.ts';
import { busPlan } from './busPlan.ts';
import { partsCost, type CostResult, type PartLine } from './cost.ts';
import type { GadgetPlan } from './gadgetPlan.ts';
import { lowerFirst } from '../words/index.ts';

export interface ListedPart extends PartLine {
  readonly partId: string;
  readonly why: string;
}

/** Everything to buy or to take from the drawer: picks, converters, what the levels ask for, and the maker's further parts. */
export function partsList(plan: GadgetPlan): ListedPart[] {
  const lines = new Map<string, { part: Part; quantity: number; why: string[] }>();
  const add = (part: Part | null | undefined, quantity: number, why: string) => {
    if (!part || quantity === 0) return;
    const line = lines.get(part.id) ?? { part, quantity: 0, why: [] };
    lines.set(part.id, { part, quantity: line.quantity + quantity, why: [...line.why, why] });
  };
  for (const s of plan.sensing) {
    add(s.part, s.pieces, s.ask.quantity);
    add(s.converter, s.converterPieces, `reads ${lowerFirst(s.ask.quantity)}`);
  }
  add(plan.board, 1, 'board');
  add(plan.display, 1, 'display');
  add(plan.supply, 1, 'power supply');
  add(plan.sounder, 1, 'alarm');
  const find = (id: string) => plan.parts.find((q) => q.id === id);
  const dividers = plan.sensing
    .filter((s) => s.part?.signal === 'thermistor' || s.part?.signal === 'heated element')
    .reduce((n, s) => n + s.channels.length, 0);
  add(find('resistor-1pc'), dividers, 'series and load resistors');
  const crossed = busPlan(plan).crossings.filter((c) => c.byShifter).length;
  add(find('level-shifter-4'), Math.ceil(crossed / 2), 'mixing 3.3 V and 5 V');
  for (const extra of plan.hookup.extras) {
    const missing = extra.quantity - (lines.get(extra.partId)?.quantity ?? 0);
    add(find(extra.partId), Math.max(0, missing), 'added manually');
  }
  return [...lines.values()].map(({ part, quantity, why }) => {
    const extra = plan.hookup.extras.find((e) => e.partId === part.id);
    return {
      partId: part.id,
      title: part.title,
      quantity,
      unitPrice: part.price,
      owned: extra?.owned ?? 0,
      secondHand: extra?.secondHand ?? 1,
      why: [...new Set(why)].join(', '),
    };
  });
}

/** What the list costs, against budget and ready-made price. */
export const listCost = (plan: GadgetPlan): CostResult =>
  partsCost(partsList(plan), plan.brief.budget, plan.brief.readyMade);

/** The list as CSV for a shop or a spreadsheet; cells that a spreadsheet would take for a formula are defused. */
export function partsListCsv(plan: GadgetPlan): string {
  const list = partsList(plan);
  const { lines, total } = listCost(plan);
  return Papa.unparse(
    [
      ['part', 'for', 'quantity', 'owned', 'to buy', 'unit price', 'share of new price', 'cost'],
      ...list.map((line, i) => [
        line.title,
        line.why,
        line.quantity,
        line.owned,
        lines[i]!.buy,
        line.unitPrice.toFixed(2),
        line.secondHand,
        lines[i]!.cost.toFixed(2),
      ]),
      ['total', '', '', '', '', '', '', total.toFixed(2)],
    ],
    { escapeFormulae: true },
  );
}
