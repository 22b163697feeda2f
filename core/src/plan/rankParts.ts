import type { Part, PartKind } from '../model/part.ts';
import type { GadgetPlan } from './gadgetPlan.ts';
import { partsOf } from './shelf/index.ts';
import {
  candidateOf,
  checkWeights,
  rank,
  type Candidate,
  type PartVerdict,
  type Weights,
} from './verdict.ts';

/**
 * Every part of a kind on the plan's shelf with its verdicts, ranked.
 * @throws {RangeError} for weights below 0 or all 0
 */
export function rankParts<K extends PartKind>(
  plan: GadgetPlan,
  kind: K,
  weights: Weights,
  verdictsOf: (part: Extract<Part, { kind: K }>) => PartVerdict[],
): Candidate<Extract<Part, { kind: K }>>[] {
  checkWeights(weights);
  return rank(partsOf(plan.parts, kind).map((part) => candidateOf(part, null, verdictsOf(part), weights)));
}
