import type { TrialRule } from '@lucky-needle/core/model';
import { boardLine, createWorld, FAMILIES, type WorldTruth } from '@lucky-needle/core/simulate';
import { KILN_TRUTH } from './kiln.ts';
import { MILL_GADGETS } from './millGadgets.ts';

/** What the mill's people said of a trial of a past run; without a number, of each. */
export interface PastWord {
  readonly trial?: number;
  readonly label?: string;
  readonly note?: string;
  readonly excluded?: string;
}

export interface PastRun {
  readonly daysAgo: number;
  /** After ten in the morning of that day: runs of one day follow each other. */
  readonly minutes: number;
  readonly name: string;
  /** What was different in the world that day: nobody at the mill is told. */
  readonly change?: object;
  /** How long its first step had lasted when the recording began, s: what was hot before has cooled. */
  readonly settledS?: number;
  readonly steps: readonly (readonly [condition: string, seconds: number])[];
  readonly said?: readonly PastWord[];
}

/** Weeks of one gadget. */
export interface MillPast {
  readonly template: string;
  /** How its people cut runs; left out for what the program proposes. */
  readonly rule?: TrialRule;
  readonly runs: readonly PastRun[];
}

const each = (label: string): PastWord => ({ label });
const out = (trial: number, excluded: string): PastWord => ({ trial, excluded });

const rule = (channelId: string, figureId: string, more: boolean): TrialRule => ({
  channelId,
  how: 'run',
  watchId: null,
  endWatchId: null,
  figureId,
  more,
});

/** Races of eight days: the red duck is the quickest, and everyone trims a little better as the season goes on. */
const races = Array.from({ length: 8 }, (_, day) =>
  (['red', 'blue', 'yellow'] as const).map((duck, k): PastRun => ({
    daysAgo: 24 - 3 * day,
    minutes: 6 * k,
    name: `Race day ${day + 1}, ${duck}`,
    change: { duckSpeed: [0.74, 0.69, 0.65][k]! * (1 + 0.008 * day + 0.006 * Math.sin(5 * day + 2 * k)) },
    steps: [
      ['empty', 3],
      [day === 2 && duck === 'blue' ? 'leaf' : 'race', 44],
    ],
    said: [each(duck), ...(day === 2 && duck === 'blue' ? [out(1, 'a leaf fell through the beam')] : [])],
  })),
).flat();

/** At this top speed in m/s an exponential approach passes 12 km/h after so many of its build-up times. */
const TOP_SPEED = 3.9;
const BUILD_UPS = -Math.log(1 - 12 / 3.6 / TOP_SPEED);

/** What a ferryman is sooner or later by from one sprint to the next, s. */
const HIS_FORM = [0.05, -0.08, 0.02, -0.03, 0.04, -0.05, 0.07, -0.02, 0.03, -0.03];

/** Tries that truly take about so many seconds to 12 km/h. */
const sprints = (daysAgo: number, label: string, quickS: number): PastRun[] =>
  HIS_FORM.map((later, k) => ({
    daysAgo,
    minutes: 5 * k,
    name: `Sprint ${k + 1}, ${label}`,
    change: { topSpeed: TOP_SPEED, buildUpS: (quickS + later) / BUILD_UPS },
    steps: [
      // The receiver looks for its satellites first.
      ['still', 45],
      ['sprint', 18],
      ['still', 6],
    ],
    said: [each(label)],
  }));

const blows = (daysAgo: number, minutes: number, face: string, blowN: number, glance?: number): PastRun => ({
  daysAgo,
  minutes,
  name: `Ten impacts, ${face}`,
  change: { blowN, ...(glance && { glancing: glance }) },
  steps: [
    ['empty', 1],
    ['blows', 40],
  ],
  said: [each(face), ...(glance ? [out(glance, 'glanced off the edge of the anvil')] : [])],
});

const cells = [1980, 1870, 1910, 1240, 1955].map((capacityMah, k): PastRun => ({
  daysAgo: 15 - 2 * k,
  minutes: 0,
  name: `Lantern cell ${k + 1}`,
  change: { capacityMah, internalOhm: capacityMah < 1500 ? 0.19 : 0.08 + 0.004 * k },
  steps: [
    ['rest', 120],
    ['discharge', 6 * 3600],
  ],
  said: [
    capacityMah < 1500
      ? { label: 'old batch', note: 'Rejected: it was left empty over the winter.' }
      : each(k > 3 ? 'old batch' : 'new batch'),
  ],
}));

const spins = (daysAgo: number, label: string, rpm: number): PastRun[] =>
  [0, 1, 2].map((k) => ({
    daysAgo,
    minutes: 8 * k,
    name: `Spin-down ${k + 1}, ${label}`,
    change: { rpm: rpm + 0.8 * Math.sin(4 * k + daysAgo) },
    steps: [
      ['stopped', 3],
      ['running', 40],
      ['run-down', 95],
    ],
    said: [each(label)],
  }));

export const MILL_PAST: readonly MillPast[] = [
  {
    template: 'impact-peak',
    runs: [
      blows(12, 0, 'old face', 1310, 4),
      blows(5, 0, 'dressed face', 1480),
      blows(5, 9, 'hardwood pad', 1120),
    ],
  },
  { template: 'sprint', runs: [...sprints(13, 'old pole', 8.5), ...sprints(4, 'new pole', 8.2)] },
  { template: 'crossing-timer', runs: races },
  { template: 'rotation', runs: [...spins(11, 'before greasing', 114), ...spins(3, 'after greasing', 121)] },
  { template: 'cell-bench', rule: rule('i', 'charge', true), runs: cells },
  {
    template: 'motion-counter',
    rule: rule('shake', 'cadence', true),
    runs: [94.2, 93.8, 97.1, 97.4].map((strokesPerMin, k) => ({
      daysAgo: 14 - 3 * k,
      minutes: 0,
      name: `Rye, sack ${k + 1}`,
      change: { strokesPerMin },
      steps: [
        ['z-up', 4],
        ['shaking', 60],
      ],
      said: [each(k < 2 ? 'old belt' : 'new belt')],
    })),
  },
  {
    template: 'beat-rate',
    rule: rule('flash', 'gain', false),
    runs: [2.0011, 2.0009, 2.0001, 1.9999].map((periodS, k) => ({
      daysAgo: 16 - 4 * k,
      minutes: 0,
      name: `Tower clock, week ${k + 1}`,
      change: { periodS },
      steps: [['running', 240]],
      said: [each(k < 2 ? 'before adjustment' : 'bob raised')],
    })),
  },
  {
    template: 'displacement',
    runs: ['linen', 'sacking'].map((cloth, k) => ({
      daysAgo: 9 - 3 * k,
      minutes: 0,
      name: `Pieces of ${cloth}`,
      change: { slipShare: k === 0 ? 0 : 0.004 },
      steps: [1, 2, 3, 4].flatMap(() => [['still', 4] as const, ['drag-x', 8] as const]),
      said: [each(cloth)],
    })),
  },
  {
    template: 'ride-recorder',
    runs: ['flour', 'empty sling', 'flour, second lift'].map((load, k) => ({
      daysAgo: 10 - 3 * k,
      minutes: 0,
      name: `Hoist, ${load}`,
      steps: [
        ['z-up', 3],
        ['ride', 40],
      ],
      said: [each(load === 'empty sling' ? 'empty' : 'loaded')],
    })),
  },
  {
    template: 'ac-power',
    runs: (['lamp', 'motor', 'no-load'] as const).map((load, k) => ({
      daysAgo: 8 - 2 * k,
      minutes: 0,
      name: `Mill wheel, ${load === 'no-load' ? 'no load' : load}`,
      steps: [
        ['stopped', 2],
        [load, 12],
      ],
      said: [each(load === 'no-load' ? 'idle' : load)],
    })),
  },
  {
    template: 'absorbance',
    runs: [62, 74, 69].map((vatMgL, k) => ({
      daysAgo: 12 - 4 * k,
      minutes: 0,
      name: `Madder vat, dip ${k + 1}`,
      change: { vatMgL },
      steps: [
        ['blank', 30],
        ['vat-diluted', 60],
      ],
      said: [each(k === 1 ? 'fresh root' : 'last year’s root')],
    })),
  },
  {
    template: 'gas-watch',
    runs: [1, 2, 3].map((night) => ({
      daysAgo: 13 - 4 * night,
      minutes: 12 * 60,
      name: `Cellar, night ${night}`,
      steps: [
        ['clean', 420],
        ['ferment', 60 + 120 * night],
        ['clean', 240],
      ],
      said: [each(night < 3 ? 'hatch open' : 'hatch shut')],
    })),
  },
  {
    template: 'heading',
    runs: [1, 2, 3].map((k) => ({
      daysAgo: 11 - 3 * k,
      minutes: 0,
      name: `Vane, afternoon ${k}`,
      steps: [[k === 2 ? 'motor' : 'swinging', 90]],
      said:
        k === 2
          ? [{ label: 'in the loft', excluded: 'the motor next to it was running' }]
          : [each(k === 1 ? 'in the loft' : 'on the ridge')],
    })),
  },
  {
    template: 'several-temperatures',
    runs: [1, 2].map((k) => ({
      daysAgo: 5 - 2 * k,
      minutes: 30,
      name: `Firing, ${k === 1 ? 'ash' : 'elm'} boards`,
      settledS: 120,
      steps: [
        ['room', 60],
        ['kiln', 1200],
      ],
      said: [each(k === 1 ? 'ash' : 'elm')],
    })),
  },
];

/** Raw columns of a gadget's board. */
export const columnsOf = (template: string) => createWorld(truthOf(template)).columns;

/** A past run as the board printed it. @param k which run of the gadget's: no two are alike */
export function* linesOf(template: string, run: PastRun, k: number): Generator<string> {
  const truth = truthOf(template);
  const world = createWorld({ ...truth, ...run.change, seed: truth.seed + 17 * (k + 1) } as WorldTruth);
  const periodS = 1 / familyOf(template).sampleRateHz;
  world.setCondition(run.steps[0]![0]);
  for (let s = 0; s < (run.settledS ?? 0); s += periodS) world.step(periodS);
  let i = 0;
  for (const [condition, seconds] of run.steps) {
    world.setCondition(condition);
    for (let n = Math.round(seconds / periodS); n > 0; n--)
      yield boardLine(++i * periodS, world.step(periodS));
  }
}

/** When its world was made to do something else in a past run, s, and what. */
export function happenedIn(template: string, run: PastRun): { timeS: number; text: string }[] {
  const { conditions } = createWorld(truthOf(template));
  let timeS = 0;
  return run.steps
    .map(([condition, seconds]) => {
      const happened = { timeS, text: conditions.find((c) => c.id === condition)!.title };
      timeS += seconds;
      return happened;
    })
    .slice(1);
}

/** What a gadget of the mill hides: the same as its simulated board. */
export function truthOf(template: string): WorldTruth {
  if (template === 'several-temperatures') return KILN_TRUTH;
  const family = familyOf(template);
  return family.draw(640 + family.family);
}

/** The simulated family of a template; the kiln's is the last of them. */
function familyOf(template: string) {
  const number = MILL_GADGETS.find((g) => g.template === template)?.family ?? 14;
  return FAMILIES.find((f) => f.family === number)!;
}
