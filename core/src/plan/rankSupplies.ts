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
import { CHEMISTRY_WORDS } from '../words/index.ts';

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
    title: 'Type',
    state: wall === wanted ? 'pass' : wall ? 'fail' : 'tight',
    sentence: wall
      ? wanted
        ? 'The brief specifies wall power.'
        : 'The brief does not specify wall power.'
      : wanted
        ? 'Works, although the brief specifies wall power.'
        : `A battery, ${CHEMISTRY_WORDS[supply.chemistry]}.`,
    arithmetic: `The brief specifies ${plan.brief.power === 'wall' ? 'wall' : 'battery'} power.`,
    change: wall
      ? 'Choose a battery, or provide a wall socket.'
      : 'Use a wall supply, so that no cells need changing.',
  });
}

function powerChecks(plan: GadgetPlan, supply: SupplyPart): PartVerdict[] {
  const power = powerPlan(plan)!;
  const { budget } = power;
  const peak = atLeast({
    check: 'rate',
    title: 'Peak current',
    state: supply.limitA >= 1.25 * budget.peakA ? 'pass' : supply.limitA >= budget.peakA ? 'tight' : 'fail',
    value: supply.limitA,
    limit: budget.peakA,
    unit: 'A',
    sentence: `Supplies up to ${amperes(supply.limitA)}; the picks draw ${amperes(budget.peakA)} at peak.`,
    arithmetic: budget.arithmetic.join(' '),
    change: 'Switch loads on one after another, or use a stronger supply.',
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
          (r) =>
            `${r.id} ${r.regulator.kind === 'none' ? 'directly' : `through a ${r.regulator.kind} regulator`}`,
        )
        .join(', ') + '.',
    arithmetic:
      others.join(' ') ||
      budget.rails.map((b) => `${b.rail.id}: ${p(b.peakHeatW, 2)} W of heat at peak`).join('; ') + '.',
    change: 'Use another regulator for the rail, or a supply closer to its voltage.',
  });
  if (budget.runtimeH === null) return [peak, rails];
  const wanted = plan.brief.enduranceH ?? 24;
  const { runtimeH } = budget;
  const awake = runtimeH >= wanted ? null : dutyFor(plan, wanted);
  return [
    peak,
    atLeast({
      check: 'power',
      title: 'Battery life',
      state: runtimeH >= 1.3 * wanted ? 'pass' : runtimeH >= wanted || awake !== null ? 'tight' : 'fail',
      value: runtimeH,
      limit: wanted,
      unit: 'h',
      sentence: `Lasts ${hours(runtimeH)}; ${hours(wanted)} required${plan.brief.enduranceH === null ? ' (assumed: the brief sets no battery life)' : ''}.${awake === null ? '' : ` At ${p(100 * awake, 2)} % time awake it would last long enough.`}`,
      arithmetic: budget.arithmetic.at(-1)!,
      change:
        'Use a bigger battery, sleep longer between readings (see Hook-up), or pick parts that draw less.',
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
