import type { ConverterPart, SensorPart } from '../model/part.ts';
import { UNITS } from '../units/index.ts';
import { accuracyCheck, trueUpCheck } from './checks/accuracy.ts';
import { rangeCheck } from './checks/range.ts';
import { rateCheck } from './checks/rate.ts';
import { resolutionCheck } from './checks/resolution.ts';
import { responseCheck } from './checks/response.ts';
import { powerCheck, priceCheck, surroundingsCheck } from './checks/shared.ts';
import { levelCheck, wiringCheck } from './checks/wiring.ts';
import { boardOf, planWith, type GadgetPlan, type Sensing } from './gadgetPlan.ts';
import { otherCost } from './otherCost.ts';
import { pinsMissing } from './pinsFit.ts';
import { isAnalog } from './sensorLine.ts';
import { partsOf } from './shelf/index.ts';
import { candidateOf, checkWeights, rank, WEIGHTS, type Candidate, type Weights } from './verdict.ts';

/**
 * Judges every sensor of an ask's measurand, through every converter that takes its signal, and ranks them; failed ones stay
 * in the list, last.
 * @throws {RangeError} for an ask that is not there, or weights below 0 or all 0
 */
export function rankSensors(
  plan: GadgetPlan,
  askId: string,
  weights: Weights = WEIGHTS,
): Candidate<SensorPart>[] {
  checkWeights(weights);
  const sensing = plan.sensing.find((s) => s.ask.id === askId);
  if (!sensing)
    throw new RangeError(
      `The brief has no requirement "${askId}". Choose one of ${plan.sensing.map((s) => s.ask.id).join(', ')}.`,
    );
  const converters = partsOf(plan.parts, 'converter');
  const dimension = UNITS[sensing.brief.unit].dimension;
  const candidates: Candidate<SensorPart>[] = [];
  // Parts that are wired alike find the same pins: the solver is asked once for each way of wiring.
  const missing = new Map<string, readonly string[]>();
  for (const part of partsOf(plan.parts, 'sensor')) {
    if (part.measurand !== sensing.ask.measurand || UNITS[part.unit].dimension !== dimension) continue;
    for (const converter of convertersFor(part, converters))
      candidates.push(judge(plan, sensing, part, converter, weights, missing));
  }
  return rank(candidates);
}

/** The board's own converter (null) and those of the shelf; a bridge's millivolts are too small for the board's own. */
export function convertersFor(
  part: SensorPart,
  converters: readonly ConverterPart[],
): (ConverterPart | null)[] {
  if (!isAnalog(part)) return [null];
  const able = converters.filter((c) => c.takes.some((t) => t === part.signal));
  return part.signal === 'bridge' ? able : [null, ...able];
}

function judge(
  plan: GadgetPlan,
  sensing: Sensing,
  part: SensorPart,
  converter: ConverterPart | null,
  weights: Weights,
  missing: Map<string, readonly string[]>,
): Candidate<SensorPart> {
  const board = boardOf(plan);
  const changed = planWith(plan, sensing.ask.id, part, converter);
  const { brief, channels, pieces, converterPieces } = changed.sensing.find(
    (s) => s.ask.id === sensing.ask.id,
  )!;
  const way = [part.bus, part.pinNeeds.join('+'), part.columns, part.perPart, converter?.id].join();
  const unmet = missing.get(way) ?? pinsMissing(changed, board);
  missing.set(way, unmet);
  const verdicts = [
    rangeCheck(part, brief),
    resolutionCheck(part, board, converter, brief),
    accuracyCheck(part, board, converter, brief),
    trueUpCheck(part, brief),
    rateCheck(part, board, converter, brief, channels.length),
    responseCheck(part, brief),
    wiringCheck(part, board, converter, brief, changed, channels.length, unmet),
    levelCheck(part, board, converter),
    powerCheck(part, converter, brief, pieces, plan.hookup.duty),
    surroundingsCheck(part, brief),
    priceCheck(part, converter, brief, pieces, converterPieces, otherCost(plan, sensing.ask.id)),
  ];
  return candidateOf(part, converter, verdicts, weights);
}
