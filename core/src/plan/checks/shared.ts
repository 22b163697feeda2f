import type { ChannelBrief } from '../../model/gadget.ts';
import type { ConverterPart, Part } from '../../model/part.ts';
import type { Surrounding } from '../../model/surroundings.ts';
import { environmentFindings } from '../environment.ts';
import { amperes, atLeast, atMost, hours, p, yesOrNo, type FitState, type PartVerdict } from '../verdict.ts';
import { ENVIRONMENT_WORDS, listed } from '../../words/index.ts';

type Shared = Pick<ChannelBrief, 'power' | 'enduranceH' | 'surroundings' | 'budget'>;

/** What endurance is asked when the brief says battery and no figure: a day. */
const DAY_H = 24;
/** What a set of AA cells gives, Ah, and the least share of the time that a gadget can be awake and still be of use. */
const USABLE_AH = 2;
const LEAST_AWAKE = 0.02;

/** Pieces of the load's share on a common set of batteries (2 Ah that can be taken), were it alone on them. */
export function powerCheck(
  part: Part,
  converter: ConverterPart | null,
  brief: Shared,
  pieces: number,
  duty: number,
): PartVerdict {
  const alwaysOn = part.warmUpS >= 60;
  const share = alwaysOn ? 1 : duty;
  const each = part.onA * share + part.sleepA * (1 - share);
  const total = each * pieces + (converter?.onA ?? 0);
  const base = { check: 'power' as const, title: 'Power' };
  if (brief.power === 'wall')
    return yesOrNo({
      ...base,
      state: total > 1.5 ? 'tight' : 'pass',
      sentence: `Draws ${amperes(total)} from the wall supply.`,
      arithmetic: `${pieces} × ${amperes(part.onA)}${part.warmUpS > 0 ? `; warms up for ${p(part.warmUpS / 60, 2)} min at ${amperes(part.warmUpA)}` : ''}.`,
      change: 'Use a stronger supply.',
    });
  const wanted = brief.enduranceH ?? DAY_H;
  const enduranceAt = (awake: number) => {
    const load = (part.onA * awake + part.sleepA * (1 - awake)) * pieces + (converter?.onA ?? 0) * awake;
    return load > 0 ? USABLE_AH / load : Infinity;
  };
  const endurance = enduranceAt(share);
  const asleep = alwaysOn ? endurance : enduranceAt(LEAST_AWAKE);
  const state: FitState =
    endurance >= 3 * wanted ? 'pass' : endurance >= wanted || asleep >= 1.5 * wanted ? 'tight' : 'fail';
  const napping = endurance < wanted && state === 'tight';
  return atLeast({
    ...base,
    state,
    value: Math.min(endurance, 1e6),
    limit: wanted,
    unit: 'h',
    sentence: Number.isFinite(endurance)
      ? `On its own it would drain a set of AA cells in ${hours(endurance)}; ${hours(wanted)} required.${napping ? ' It must sleep between readings.' : ''}`
      : 'Draws no current of its own.',
    arithmetic: `${USABLE_AH} Ah usable / ${amperes(total)} (${pieces} × ${amperes(each)}${alwaysOn ? ', always on because of its warm-up' : duty < 1 ? `, awake ${p(100 * duty, 2)} % of the time` : ''}); three times the required battery life leaves room for the other parts.`,
    change: alwaysOn
      ? 'Use wall power, or a sensor without a heater.'
      : 'Sleep longer between readings, or use bigger cells or wall power.',
  });
}

/**
 * What the place does to the part; not borne is a failure, not known is tight.
 * @param boxed what a closed box or another corner keeps off a part of its kind: not borne is then only tight
 */
export function surroundingsCheck(
  part: Part,
  brief: Shared,
  boxed: readonly Surrounding[] = [],
): PartVerdict {
  const findings = environmentFindings(brief.surroundings, part).map((f) =>
    f.state === 'fail' && boxed.includes(f.surrounding)
      ? {
          ...f,
          state: 'tight' as const,
          sentence: `${part.title} does not tolerate ${ENVIRONMENT_WORDS[f.surrounding]} unprotected: put it in a closed box or somewhere else.`,
          wayOut: 'Use a closed box, or mount it somewhere else.',
          boxed: true,
        }
      : { ...f, boxed: false },
  );
  const worst = findings.find((f) => f.state === 'fail') ?? findings.find((f) => f.state === 'tight');
  const unknown = findings
    .filter((f) => f.state === 'tight' && !f.boxed)
    .map((f) => ENVIRONMENT_WORDS[f.surrounding]);
  return yesOrNo({
    check: 'surroundings',
    title: 'Environment',
    state: worst?.state ?? 'pass',
    sentence:
      worst === undefined
        ? brief.surroundings.length > 0
          ? `Tolerates ${listed(brief.surroundings.map((s) => ENVIRONMENT_WORDS[s]))}.`
          : 'The brief lists no harsh environment.'
        : worst.state === 'fail'
          ? `Does not tolerate ${ENVIRONMENT_WORDS[worst.surrounding]}.`
          : worst.boxed
            ? `Tolerates ${ENVIRONMENT_WORDS[worst.surrounding]} only in a closed box or mounted elsewhere.`
            : `Not known to tolerate ${listed(unknown)}.`,
    arithmetic: findings.map((f) => f.sentence).join(' ') || 'Nothing to check.',
    change: worst?.wayOut ?? '',
  });
}

/** Cost of the pieces against what the rest of the gadget leaves of the budget. */
export function priceCheck(
  part: Part,
  converter: ConverterPart | null,
  brief: Shared,
  pieces: number,
  converterPieces: number,
  otherCost: number,
): PartVerdict {
  const cost = part.price * pieces + (converter?.price ?? 0) * converterPieces;
  const left = brief.budget === null ? Infinity : brief.budget - otherCost;
  const words = pieces > 1 ? `${cost.toFixed(2)} for ${pieces}` : cost.toFixed(2);
  const terms = [
    `${pieces} × ${part.price.toFixed(2)}`,
    ...(converter && converterPieces > 0
      ? [`${converterPieces} × ${converter.price.toFixed(2)} for the converter`]
      : []),
  ].join(' + ');
  if (brief.budget === null)
    return yesOrNo({
      check: 'price',
      title: 'Price',
      state: 'pass',
      sentence: `${words}; the brief sets no budget.`,
      arithmetic: `${terms}.`,
    });
  return atMost({
    check: 'price',
    title: 'Price',
    state: cost > left ? 'fail' : cost > left / 2 ? 'tight' : 'pass',
    value: cost,
    limit: left,
    unit: '',
    sentence: `${words}; ${left.toFixed(2)} of the budget ${left < 0 ? 'left: already over budget' : 'left for it'}.`,
    arithmetic: `${terms}; budget ${brief.budget.toFixed(2)} minus ${otherCost.toFixed(2)} for the other picks.`,
    change:
      cost > left
        ? `Raise the budget by ${(cost - left).toFixed(2)}, or choose a cheaper part.`
        : 'Choose a cheaper part: this one takes more than half of what is left.',
  });
}
