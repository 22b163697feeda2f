import type { ChannelBrief } from '../model/gadget.ts';
import { neededRateHz } from '../prove/neededRate.ts';
import { worstPeakFraction } from '../numerics/samplingRate.ts';
import { printNominal, UNITS } from '../units/index.ts';
import { briefOfAsk } from './briefFor.ts';
import { briefFaults } from './briefFault.ts';
import { rateOf } from './checks/rate.ts';
import { boardOf, type GadgetPlan } from './gadgetPlan.ts';
import { powerPlan } from './powerPlan.ts';
import { rankSensors } from './rankSensors.ts';
import { hours } from './verdict.ts';
import { lowerFirst } from '../words/index.ts';

export interface Contradiction {
  /** Where it shows: the brief itself, or a pick that cannot meet it. */
  readonly where: 'brief' | 'pick' | 'hook-up';
  readonly sentence: string;
  readonly wayOut: string;
}

const p = (v: number) => printNominal(v);

/** Says why a converter of this rate cannot meet the brief's event; null when it can. */
export function contradiction(brief: ChannelBrief, converterHz: number): string | null {
  const { fastest } = brief;
  const needed = neededRateHz(brief);
  if (converterHz >= needed) return null;
  if (fastest.kind !== 'pulse')
    return `${p(converterHz)} readings per second is too slow; ${p(needed)} required.`;
  const kept = worstPeakFraction(fastest.widthS, converterHz);
  return `A ${p(fastest.widthS * 1000)} ms pulse is too short for ${p(converterHz)} readings per second: ${kept === 0 ? 'it may be missed altogether' : `it may keep only ${p(100 * kept)} % of its peak`}.`;
}

/** Everything in a gadget's brief and picks that cannot be true together, each with the way out. */
export function contradictionsOf(plan: GadgetPlan): Contradiction[] {
  return [
    ...plan.brief.asks.flatMap((ask) =>
      briefFaults(briefOfAsk(plan.brief, ask)).map((f): Contradiction => ({
        where: 'brief',
        sentence: f.message,
        wayOut: 'Correct the requirement.',
      })),
    ),
    ...plan.sensing.flatMap((s) => (s.part ? pickContradiction(plan, s) : nothingFits(plan, s))),
    ...samplingContradiction(plan),
    ...enduranceContradiction(plan),
  ];
}

type Sensing = GadgetPlan['sensing'][number];

function pickContradiction(plan: GadgetPlan, { part, converter, brief, channels }: Sensing): Contradiction[] {
  if (!part || part.frameRateHz > 0 || part.signal === 'edges') return [];
  const { rateHz } = rateOf(part, boardOf(plan), converter, channels.length);
  const sentence = contradiction(brief, rateHz);
  return sentence
    ? [
        {
          where: 'pick',
          sentence,
          wayOut: `Pick a faster ${converter ? 'converter' : 'part'} for ${lowerFirst(brief.quantity)}.`,
        },
      ]
    : [];
}

/** The shelf has parts of the kind and every one fails: which check stops the one that comes nearest? */
function nothingFits(plan: GadgetPlan, { ask, brief }: Sensing): Contradiction[] {
  if (ask.measurand === 'worked out') return [];
  const candidates = rankSensors(plan, ask.id);
  // Until a board is picked, what only the stand-in cannot do stops nothing.
  const stopsOf = (c: (typeof candidates)[number]) =>
    c.verdicts.filter((v) => v.hard && v.state === 'fail' && (plan.board || v.check !== 'wiring'));
  if (candidates.length === 0 || candidates.some((c) => stopsOf(c).length === 0)) return [];
  const nearest = candidates[0]!;
  const [stop] = stopsOf(nearest);
  return [
    {
      where: 'brief',
      sentence: `No part on the shelf can measure ${lowerFirst(brief.quantity)} from ${brief.low} to ${brief.high} ${UNITS[brief.unit].symbol} to ±${brief.tolerance}: the closest, ${nearest.part.title}, fails on ${lowerFirst(stop!.title)}. ${stop!.sentence}`,
      wayOut: stop!.change,
    },
  ];
}

/** The gadget's own rate of reading against what its events need. */
function samplingContradiction(plan: GadgetPlan): Contradiction[] {
  const { sampleRateHz } = plan.gadget;
  return plan.sensing.flatMap(({ part, brief, channels }) => {
    // Edges and steps are counted between readings; nothing is lost by reading seldom.
    if (!part || channels.length === 0 || part.signal === 'edges' || part.frameRateHz > 0) return [];
    const needed = neededRateHz(brief);
    if (sampleRateHz >= needed * 0.999) return [];
    return [
      {
        where: 'brief' as const,
        sentence: `The gadget sends ${p(sampleRateHz)} readings per second; ${lowerFirst(brief.quantity)} needs ${p(needed)}.`,
        wayOut: `Set the reading rate to ${p(Math.ceil(needed))} per second, or allow for a slower change in the brief.`,
      },
    ];
  });
}

function enduranceContradiction(plan: GadgetPlan): Contradiction[] {
  const power = powerPlan(plan);
  const wanted = plan.brief.enduranceH;
  if (!power || wanted === null || power.budget.runtimeH === null || power.budget.runtimeH >= wanted)
    return [];
  return [
    {
      where: 'hook-up',
      sentence: `With these picks, ${power.supply.title} lasts ${hours(power.budget.runtimeH)}; the brief requires ${hours(wanted)}.`,
      wayOut: 'Sleep longer between readings, use a bigger battery, or pick parts that draw less.',
    },
  ];
}
