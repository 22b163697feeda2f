import { CHEMISTRIES, type Chemistry } from './cells.ts';
import { step, type Procedure } from './spec.ts';

/**
 * Charge, rest, discharge to the cut-off, rest, with limits on volts and temperature. Readings: volts, amperes, celsius.
 * Chemistries that must not be charged begin with the rest.
 * @param capacityMah rated; sets the longest times
 */
export function cellProcedure(chemistry: Chemistry, capacityMah: number, dischargeA: number): Procedure {
  if (!(capacityMah > 0) || !(dischargeA > 0))
    throw new RangeError(
      `Enter a rated capacity and a current above 0; received ${capacityMah} mAh and ${dischargeA} A.`,
    );
  const { full, cutOff, dead, title } = CHEMISTRIES[chemistry];
  const longest = (capacityMah / 1000 / dischargeA) * 3600 * 1.6;
  const charge = step('charge', 'Charge', {
    set: { charger: true, load: false },
    until: [{ kind: 'above', reading: 'volts', value: full - 0.01, holdS: 60 }],
    maxS: longest * 2,
  });
  return {
    title: `Cell test, ${title}`,
    abortIf: [
      { kind: 'above', reading: 'celsius', value: 45, holdS: 2 },
      { kind: 'above', reading: 'volts', value: full * 1.02, holdS: 1 },
      { kind: 'below', reading: 'volts', value: dead, holdS: 1 },
    ],
    safe: { charger: false, load: false },
    steps: [
      ...(chemistry === 'alkaline' ? [] : [charge]),
      step('rest-1', 'Rest', { set: { charger: false, load: false }, minS: 600 }),
      step('discharge', 'Discharge to the cutoff', {
        set: { charger: false, load: true },
        until: [{ kind: 'below', reading: 'volts', value: cutOff, holdS: 1 }],
        maxS: longest,
      }),
      step('rest-2', 'Rest', { set: { charger: false, load: false }, minS: 600 }),
    ],
  };
}

/** Warm up, zero in clean air, expose, recover: for gas elements. Reading: level. */
export function exposureProcedure(warmUpS: number, exposeS: number): Procedure {
  return {
    title: 'Zero and span with a known dose',
    abortIf: [],
    safe: { pump: false },
    steps: [
      step('warm', 'Warm up in clean air', { minS: warmUpS }),
      step('zero', 'Wait for a steady zero', {
        until: [{ kind: 'steady', reading: 'level', within: 2, holdS: 60 }],
        maxS: 1800,
      }),
      step('expose', 'Expose to the known dose', {
        ask: 'Put the dose into the box, then continue.',
        minS: exposeS,
        set: { pump: true },
      }),
      step('recover', 'Recover in clean air', { ask: 'Open the box.', minS: exposeS, set: { pump: false } }),
    ],
  };
}

/** Six rests, each side up in turn until the readings stand still. Reading: magnitude. */
export function sixRestsProcedure(): Procedure {
  return {
    title: 'Six positions',
    abortIf: [],
    safe: {},
    steps: ['z up', 'z down', 'x up', 'x down', 'y up', 'y down'].map((side) =>
      step(side.replace(' ', '-'), `Rest position, ${side}`, {
        ask: `Place the gadget with ${side}, then let go.`,
        until: [{ kind: 'steady', reading: 'magnitude', within: 0.02, holdS: 3 }],
        maxS: 120,
      }),
    ),
  };
}

/** Up and down a staircase of loads, each held until steady. Reading: load. */
export function staircaseProcedure(loads: readonly number[], within: number): Procedure {
  const rising = [...loads].sort((a, b) => a - b);
  if (rising.length < 2)
    throw new RangeError(`A step series needs at least two loads; received ${rising.length}.`);
  const places = [
    ...rising.map((v) => [v, 'up'] as const),
    ...rising
      .slice(0, -1)
      .reverse()
      .map((v) => [v, 'down'] as const),
  ];
  return {
    title: 'Load step series',
    abortIf: [],
    safe: {},
    steps: places.map(([load, way]) =>
      step(`${way}-${load}`, `${load}, going ${way}`, {
        ask: `Set the load to ${load} without overshooting.`,
        until: [{ kind: 'steady', reading: 'load', within, holdS: 5 }],
        maxS: 300,
      }),
    ),
  };
}
