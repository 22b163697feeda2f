import type { SupplyPart } from '../model/part.ts';
import { priceCheck, surroundingsCheck } from './checks/shared.ts';
import { boardOf, type GadgetPlan } from './gadgetPlan.ts';
import { rankParts } from './rankParts.ts';
import { otherCost } from './otherCost.ts';
import { powerPlan } from './powerPlan.ts';
import {
  amperes,
  atLeast,
  hours,
  p,
  WEIGHTS,
  yesOrNo,
  type Candidate,
  type PartVerdict,
  type Weights,
} from './verdict.ts';

/** Judges every supply by what the picks draw: kind, peaks, endurance, heat in the regulators, surroundings, price. */
export function rankSupplies(plan: GadgetPlan, weights: Weights = WEIGHTS): Candidate<SupplyPart>[] {
  return rankParts(plan, 'supply', weights, (supply) => [
    kindCheck(plan, supply),
    ...powerChecks({ ...plan, board: boardOf(plan), supply }, supply),
    surroundingsCheck(supply, plan.brief, ['damp', 'dust', 'sun', 'shaking', 'heat']),
    priceCheck(supply, null, plan.brief, 1, 0, otherCost(plan, 'supply')),
  ]);
}

function kindCheck(plan: GadgetPlan, supply: SupplyPart): PartVerdict {
  const wall = supply.chemistry === 'wall';
  const wanted = plan.brief.power === 'wall';
  return yesOrNo({
    check: 'wiring',
    title: 'Kind',
    state: wall === wanted ? 'pass' : wall ? 'fail' : 'tight',
    sentence: wall
      ? wanted
        ? 'The brief has wall power.'
        : 'The brief has no wall power.'
      : wanted
        ? 'Works, though the brief has wall power.'
        : `A battery, ${supply.chemistry}.`,
    arithmetic: `The brief says ${plan.brief.power} power.`,
    change: wall ? 'A socket at the place, or a battery.' : 'A wall supply saves changing cells.',
  });
}

function powerChecks(plan: GadgetPlan, supply: SupplyPart): PartVerdict[] {
  const power = powerPlan(plan)!;
  const { budget } = power;
  const peak = atLeast({
    check: 'rate',
    title: 'Peaks',
    state: supply.limitA >= 1.25 * budget.peakA ? 'pass' : supply.limitA >= budget.peakA ? 'tight' : 'fail',
    value: supply.limitA,
    limit: budget.peakA,
    unit: 'A',
    sentence: `Gives ${amperes(supply.limitA)}; the picks draw ${amperes(budget.peakA)} at the peak.`,
    arithmetic: budget.arithmetic.join(' '),
    change: 'Loads switched on one after the other, or a stronger supply.',
  });
  const others = budget.problems.filter((text) => !text.startsWith(supply.title));
  const rails = yesOrNo({
    check: 'level',
    title: 'Rails',
    state: others.length > 0 ? 'tight' : 'pass',
    hard: false,
    sentence:
      others[0] ??
      power.rails
        .map(
          (r) => `${r.id} ${r.regulator.kind === 'none' ? 'straight' : `by a ${r.regulator.kind} regulator`}`,
        )
        .join(', ') + '.',
    arithmetic:
      others.join(' ') ||
      budget.rails.map((b) => `${b.rail.id}: ${p(b.peakHeatW, 2)} W of heat at the peak`).join('; ') + '.',
    change: 'Another regulator for the rail, or a supply nearer to its voltage.',
  });
  if (budget.runtimeH === null) return [peak, rails];
  const wanted = plan.brief.enduranceH ?? 24;
  const { runtimeH } = budget;
  const awake = runtimeH >= wanted ? null : dutyFor(plan, wanted);
  return [
    peak,
    atLeast({
      check: 'power',
      title: 'Endurance',
      state: runtimeH >= 1.3 * wanted ? 'pass' : runtimeH >= wanted || awake !== null ? 'tight' : 'fail',
      value: runtimeH,
      limit: wanted,
      unit: 'h',
      sentence: `Runs for ${hours(runtimeH)}; ${hours(wanted)} is asked${plan.brief.enduranceH === null ? ' where the brief is silent' : ''}.${awake === null ? '' : ` Awake ${p(100 * awake, 2)} % of the time it would do.`}`,
      arithmetic: budget.arithmetic.at(-1)!,
      change: 'A bigger battery, more sleep between readings (see Hook-up), or picks that draw less.',
    }),
    rails,
  ];
}

/** The most that the gadget can be awake and still last as long as asked; null when sleep does not help. */
function dutyFor(plan: GadgetPlan, wantedH: number): number | null {
  const lasts = (duty: number) =>
    (powerPlan({ ...plan, hookup: { ...plan.hookup, duty } })?.budget.runtimeH ?? 0) >= wantedH;
  return [0.5, 0.2, 0.1, 0.05, 0.02].find((duty) => duty < plan.hookup.duty && lasts(duty)) ?? null;
}
