import type { SounderPart } from '../model/part.ts';
import { powerCheck, priceCheck, surroundingsCheck } from './checks/shared.ts';
import { boardOf, planWith, type GadgetPlan } from './gadgetPlan.ts';
import { rankParts } from './rankParts.ts';
import { otherCost } from './otherCost.ts';
import { pinsMissing } from './pinsFit.ts';
import { amperes, atLeast, p, WEIGHTS, yesOrNo, type Candidate, type Weights } from './verdict.ts';

/** A board's pin gives some 20 mA; more wants a transistor. */
const PIN_A = 0.02;

/** Judges every sounder: loudness, pins, what a pin can drive, voltage, surroundings, price. An alarm that matters sounds 10 dB over the place's noise. */
export function rankSounders(plan: GadgetPlan, weights: Weights = WEIGHTS): Candidate<SounderPart>[] {
  const board = boardOf(plan);
  const noisy = plan.brief.surroundings.includes('shaking') || plan.brief.surroundings.includes('sun');
  const wanted = noisy ? 80 : 70;
  return rankParts(plan, 'sounder', weights, (sounder) => {
    const missing = pinsMissing(planWith(plan, 'sounder', sounder), board);
    const volts = sounder.supplyLowV <= board.logicV || plan.supply === null;
    const reaches = volts || sounder.supplyLowV <= plan.supply!.volts;
    return [
      atLeast({
        check: 'loudness',
        title: 'Loudness',
        state: sounder.loudnessDb >= wanted ? 'pass' : 'tight',
        value: sounder.loudnessDb,
        limit: wanted,
        unit: 'dB',
        sentence: `${p(sounder.loudnessDb)} dB at arm’s length; ${wanted} dB recommended ${noisy ? 'outdoors or near machines' : 'indoors'}.`,
        arithmetic: 'Ten decibels above the usual background noise; each doubling of the distance loses six.',
        change: 'Choose a louder one.',
      }),
      yesOrNo({
        check: 'wiring',
        title: 'Pins',
        state: missing.length > 0 ? 'fail' : sounder.onA > PIN_A ? 'tight' : 'pass',
        sentence:
          missing[0] ??
          (sounder.onA > PIN_A
            ? `Draws ${amperes(sounder.onA)}, but a pin can supply ${amperes(PIN_A)}: drive it through a transistor.`
            : 'A pin can drive it.'),
        arithmetic: `On the ${board.title}.`,
        change: 'Drive it through a transistor, or choose one that draws less.',
      }),
      yesOrNo({
        check: 'level',
        title: 'Voltage',
        state: volts ? 'pass' : reaches ? 'tight' : 'fail',
        sentence: volts
          ? `Works from ${p(sounder.supplyLowV)} V.`
          : `Needs ${p(sounder.supplyLowV)} V; ${reaches ? 'power it from the supply' : `the supply has ${p(plan.supply!.volts)} V`}.`,
        arithmetic: `${p(sounder.supplyLowV)} to ${p(sounder.supplyHighV)} V; the board gives ${p(board.logicV)} V.`,
        change: 'Choose a sounder for the board’s voltage, or a 12 V supply.',
      }),
      powerCheck(sounder, null, plan.brief, 1, 0.01),
      surroundingsCheck(sounder, plan.brief, ['damp', 'dust']),
      priceCheck(sounder, null, plan.brief, 1, 0, otherCost(plan, 'sounder')),
    ];
  });
}
