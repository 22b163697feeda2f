import type { BoardPart, Part, SupplyPart } from '../model/part.ts';
import type { GadgetPlan } from './gadgetPlan.ts';
import { wiredParts } from './pinNeeds.ts';
import {
  currentPlausibility,
  CURRENT_BANDS,
  powerBudget,
  switchOnOrder,
  type PowerBudget,
  type PowerLoad,
  type Rail,
} from './power.ts';
import { railFor, railVolts } from './rails.ts';
import { partsOf } from './shelf/index.ts';

export type PlannedLoad = PowerLoad & { readonly warmUpS: number };

export interface PowerPlan {
  readonly loads: readonly PlannedLoad[];
  readonly rails: readonly Rail[];
  readonly supply: SupplyPart;
  readonly budget: PowerBudget;
  readonly switchOn: ReturnType<typeof switchOnOrder>;
  /** Questions about currents that lie far outside what is usual for the kind. */
  readonly questions: readonly string[];
}

/** Rails, loads and budget of the gadget; null until a board and a supply are picked. */
export function powerPlan(plan: GadgetPlan): PowerPlan | null {
  const { board, supply } = plan;
  return board && supply ? powerWith(plan, board, supply, plan.hookup.duty) : null;
}

function powerWith(plan: GadgetPlan, board: BoardPart, supply: SupplyPart, duty: number): PowerPlan {
  const fed = [
    { id: 'board', title: board.title, part: board as Part },
    ...wiredParts(plan).map(({ id, title, part }) => ({ id, title, part })),
  ];
  const volts = new Map(fed.map(({ id, part }) => [id, railVolts(part, board, supply)]));
  const rails = [...new Set(volts.values())]
    .filter((v): v is number => v !== null)
    .sort((a, b) => a - b)
    .map((v) => railFor(v, supply, board, plan.hookup.regulators.find((r) => r.volts === v)?.kind));
  const loads = fed.flatMap(({ id, title, part }): PlannedLoad[] => {
    const rail = rails.find((r) => r.volts === volts.get(id));
    if (!rail) return [];
    return [
      {
        title,
        rail: rail.id,
        onA: part.onA,
        peakA: part.peakA,
        warmUpA: part.warmUpA,
        sleepA: part.sleepA,
        // What warms up for minutes cannot sleep between readings, or it would never be warm.
        duty: part.warmUpS >= 60 ? 1 : duty,
        warmUpS: part.warmUpS,
      },
    ];
  });
  return {
    loads,
    rails,
    supply,
    budget: powerBudget(loads, rails, supply),
    switchOn: switchOnOrder(loads, supply.limitA),
    questions: fed.flatMap(({ part }) => partQuestion(part) ?? []),
  };
}

/** The kind that a part's current is held against, or null where there is no usual. */
export function currentKind(part: Part): keyof typeof CURRENT_BANDS | null {
  switch (part.kind) {
    case 'board':
      return part.radio ? 'radio board' : 'small board';
    case 'display':
      return part.widthPx > 200 && part.refreshS < 1 ? 'colour display' : 'character display';
    case 'sounder':
      return 'sounder';
    case 'converter':
      return part.takes.includes('bridge') ? 'bridge amplifier' : null;
    case 'sensor':
      if (part.signal === 'heated element') return 'heated gas sensor';
      if (part.signal === 'thermistor') return 'thermistor divider';
      if (part.signal === 'echo') return 'ultrasonic ranger';
      if (part.measurand === 'speed over ground') return 'satellite receiver';
      return null;
    default:
      return null;
  }
}

/** "A heated element at 0.1 mA? Usual is ...": null when the current is plausible or has no usual. */
export function partQuestion(part: Part): string | null {
  const kind = currentKind(part);
  return kind && currentPlausibility(kind, part.onA);
}

export interface RuntimeCurve {
  readonly supply: SupplyPart;
  readonly duties: readonly number[];
  readonly hours: readonly number[];
}

/** Runtime over the share of time awake, for each battery of the shelf that carries the peaks: rails and heat follow its voltage. */
export function runtimeCurves(plan: GadgetPlan, duties: readonly number[]): RuntimeCurve[] {
  const { board } = plan;
  if (!board) return [];
  return partsOf(plan.parts, 'supply')
    .filter((supply) => supply.chemistry !== 'wall')
    .flatMap((supply) => {
      const plans = duties.map((duty) => powerWith(plan, board, supply, duty));
      if (plans.some((q) => q.budget.problems.length > 0)) return [];
      return [{ supply, duties, hours: plans.map((q) => q.budget.runtimeH ?? 0) }];
    });
}
