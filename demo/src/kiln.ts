import type { Gadget, ReferenceInput } from '@lucky-needle/core/model';
import { PLAIN_HOOKUP, probeFigures, TEMPLATES, thermistorLine } from '@lucky-needle/core/plan';
import type { ThermistorBankTruth } from '@lucky-needle/core/model';
import { threeTermsFromBeta } from '@lucky-needle/core/simulate';
import { pick } from './pick.ts';

/** Quillmere Mill stands at 640 m; its barometer hangs by the kiln door. */
export const ELEVATION_M = 640;

/** The drying-kiln four-probe thermometer: what its makers know. */
export const KILN: Omit<Gadget, 'id' | 'template' | 'version' | 'createdAt' | 'updatedAt'> = {
  name: 'Drying-kiln probes',
  place: { name: 'Quillmere Mill, kiln loft', elevationM: ELEVATION_M, pressureHpa: null },
  brief: {
    asks: TEMPLATES.find((t) => t.id === 'several-temperatures')!.make().brief!.asks,
    power: 'wall',
    enduranceH: null,
    surroundings: ['heat', 'damp', 'dust'],
    budget: 75,
    readyMade: 140,
    note: 'Oak boards crack if one corner gets more than a few degrees hotter than the rest, so all four probes must agree.',
  },
  picks: [
    pick(
      'temperature',
      'ntc-bead-10k',
      'Four of them fit the budget, and calibration brings them within ±1 °C.',
    ),
    pick('board', 'small-8-bit', 'Four analog pins stay free next to the display’s I2C bus.'),
    pick('display', 'character-20x4', 'One row per probe.'),
    pick('supply', 'wall-9v', 'The board’s own regulator accepts 9 V.'),
    pick('sounder', 'piezo-passive', 'Audible in the loft; draws only a few milliamperes.'),
  ],
  hookup: { ...PLAIN_HOOKUP },
  cautionsRead: [],
  channels: ['door side', 'loft side', 'stack, low', 'stack, high'].map((where, i) => ({
    id: `p${i + 1}`,
    askId: 'temperature',
    name: `Probe ${i + 1}, ${where}`,
    line: thermistorLine(`p${i + 1}`),
    ...(i === 0 ? { figures: probeFigures() } : {}),
  })),
  face: {
    displayId: 'character-20x4',
    bigChannelId: 'highest',
  },
  alarms: ['door side', 'loft side', 'stack, low', 'stack, high'].map((where, i) => ({
    id: `high-p${i + 1}`,
    name: `Too hot: ${where}`,
    channelId: `p${i + 1}`,
    figureId: null,
    kind: 'high' as const,
    unit: 'degC' as const,
    caution: 70,
    limit: 80,
    from: null,
    to: null,
    hysteresis: 1.5,
    windowS: 0,
    n: 1,
    m: 1,
    minimumOnS: 3,
    latch: false,
    lamp: 'red' as const,
    sounder: 'beeps' as const,
    why: 'Oak cracks above 80 °C. At 70 °C there is still time to close the damper.',
  })),
  sampleRateHz: 10,
};

/**
 * What the makers do not know. Probe 2 has a series resistor 4 % off its marking on an otherwise honest bead; the others
 * have small faults of the bead. Never leaves the server except through the readings.
 */
export const KILN_TRUTH: ThermistorBankTruth = {
  kind: 'thermistor-bank',
  seed: 640,
  adcBits: 10,
  seriesSide: 'top',
  pressureHpa: 941.8,
  roomC: 18.4,
  iceC: 0.02,
  referenceErrorC: 0.04,
  probes: [
    {
      column: 'p1',
      ...threeTermsFromBeta(10070, 3962, 6e-8),
      seriesOhm: 3318,
      timeConstantS: 2.2,
      noiseCounts: 0.6,
      kilnOffsetC: -1.9,
    },
    {
      column: 'p2',
      ...threeTermsFromBeta(10005, 3949, 0),
      seriesOhm: 3432,
      timeConstantS: 2.5,
      noiseCounts: 0.6,
      kilnOffsetC: 0.8,
    },
    {
      column: 'p3',
      ...threeTermsFromBeta(9930, 3941, 9e-8),
      seriesOhm: 3291,
      timeConstantS: 2.1,
      noiseCounts: 0.7,
      kilnOffsetC: -0.6,
    },
    {
      column: 'p4',
      ...threeTermsFromBeta(10020, 3975, 7e-8),
      seriesOhm: 3309,
      timeConstantS: 2.9,
      noiseCounts: 0.6,
      kilnOffsetC: 2.3,
    },
  ],
};

export interface ScriptedPoint {
  readonly condition: string;
  readonly role: 'fit' | 'check';
  /** How the reference is told: made from what the simulated instruments show. */
  readonly reference: (instruments: { thermometerC: number; barometerHpa: number }) => ReferenceInput;
}

const beside = (i: { thermometerC: number }): ReferenceInput => ({
  kind: 'instrument',
  reading: i.thermometerC,
  uncertainty: 0.2,
});
const boiling = (i: { barometerHpa: number }): ReferenceInput => ({
  kind: 'boiling-pressure',
  pressureHpa: i.barometerHpa,
  uncertaintyHpa: 1,
});

/** The points that the makers kept of probe 1 last week: ends, three baths, and a check in between. */
export const PROBE_1_POINTS: readonly ScriptedPoint[] = [
  { condition: 'ice', role: 'fit', reference: () => ({ kind: 'ice-slurry' }) },
  { condition: 'room', role: 'fit', reference: beside },
  { condition: 'warm', role: 'fit', reference: beside },
  { condition: 'boiling', role: 'fit', reference: boiling },
  { condition: 'hot', role: 'check', reference: beside },
];
