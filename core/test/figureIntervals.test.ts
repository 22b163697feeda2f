import { describe, expect, it } from 'vitest';
import { createWatches, detectorKind, edgesOf } from '../src/detect/index.ts';
import { budgetWith, createFigures, figureKind, type FigureReading } from '../src/figures/index.ts';
import type { FigureSpec, WatchSpec } from '../src/model/watch.ts';
import { seededRandom, type Random } from '../src/numerics/index.ts';
import type { UnitId } from '../src/units/index.ts';

// Stated 95 % intervals of figures against the hidden truth of streams, over three hundred seeds each: what happened is drawn
// anew for every seed, so are its moments, the noise and what a constant is off by.

const SEEDS = 300;
const UNIT_OF: Readonly<Record<string, UnitId>> = { volts: 'V', amperes: 'A', other: 'degC' };

/** One stream with what it hides. */
interface Stream {
  readonly stepS: number;
  readonly lengthS: number;
  /** Of the reading and of others, without noise. */
  reading(t: number): number;
  other?(t: number): number;
  readonly noise: number;
  /** Of neighbouring readings' noise; 0 for none. */
  readonly correlation?: number;
  /** Standard uncertainty of the scale as a share: each stream is off by another draw of it. */
  readonly scale?: number;
  readonly truth: number;
}

interface Trial {
  readonly kind: string;
  readonly unit: UnitId;
  readonly params?: FigureSpec['params'];
  readonly others?: readonly string[];
  /** Watches by the part they play. */
  readonly watches?: Readonly<Record<string, Partial<WatchSpec>>>;
  /** Intervals may be wider than they need be where the figure is one of extremes: then only the lower bound holds. */
  readonly isBound?: boolean;
  draw(random: Random): Stream;
}

function run(trial: Trial, stream: Stream, random: Random): FigureReading {
  const { stepS, noise, correlation = 0, scale = 0 } = stream;
  const [off, otherOff] = [1 + scale * random.normal(), 1 + scale * random.normal()];
  const watches = Object.entries(trial.watches ?? {}).map(([role, w]): WatchSpec => {
    const { defaults } = detectorKind(w.kind!)!;
    return {
      id: role,
      name: role,
      kind: w.kind!,
      column: null,
      deadTimeS: 0,
      after: null,
      leastS: 0,
      ...w,
      params: { ...defaults, ...w.params },
    };
  });
  const kind = figureKind(trial.kind)!;
  const figures = createFigures(
    [
      {
        id: 'f',
        name: 'F',
        kind: trial.kind,
        watches: Object.fromEntries(watches.map(({ id }) => [id, id])),
        others: [...(trial.others ?? [])],
        params: { ...kind.defaults, ...trial.params },
        askId: null,
      },
    ],
    watches.map(({ id }) => id),
    {
      unit: trial.unit,
      sampleRateHz: 1 / stepS,
      isDirection: false,
      budget: budgetWith((value) => ({ systematic: scale * Math.abs(value), noise }), null),
      budgetOf: () =>
        budgetWith(
          (value) => ({ systematic: scale * Math.abs(value), noise: trial.others ? noise : 0 }),
          null,
        ),
      clockShare: 0,
      edgesOf: (id) => edgesOf(watches.find((w) => w.id === id)!),
      unitOf: (id) => UNIT_OF[id] ?? trial.unit,
    },
  );
  expect(figures.problems).toEqual([null]);
  const found = createWatches(watches, { sampleRateHz: 1 / stepS, lagS: 0 }, (e) => figures.event(e));
  let last = random.normal();
  const innovation = Math.sqrt(1 - correlation ** 2);
  // Where the first reading falls within a step is drawn, too.
  for (let t = stepS * random.uniform(); t < stream.lengthS; t += stepS) {
    last = correlation * last + innovation * random.normal();
    const x = off * stream.reading(t) + noise * last;
    figures.reading(t, x, (id) =>
      UNIT_OF[id] ? otherOff * stream.other!(t) + noise * random.normal() : Number.NaN,
    );
    found.reading(t, x);
  }
  return figures.now()[0]!;
}

const between = (random: Random, low: number, high: number) => low + (high - low) * random.uniform();

/** Of a reading that goes up and down past a limit, above it for a third of each turn, however it begins. */
const aboveLimit = (more: Pick<Stream, 'noise' | 'scale'>, isBound: boolean): Trial => ({
  kind: 'time-beyond',
  unit: 'degC',
  params: { to: 's' },
  watches: { of: { kind: 'beyond', params: { side: 'above', level: 13, hysteresis: 0.2 } } },
  isBound,
  draw(random) {
    const [period, phase] = [between(random, 1500, 3000), between(random, 0, 2 * Math.PI)];
    const reading = (t: number) => 12 + 2 * Math.sin((2 * Math.PI * t) / period + phase);
    const lengthS = 2 * period;
    return { stepS: 1, lengthS, reading, truth: lengthS / 3, ...more };
  },
});

const TRIALS: Readonly<Record<string, Trial>> = {
  'time above a limit by readings that are all off alike': aboveLimit({ noise: 0.02, scale: 0.02 }, true),
  'time above a limit that is passed slowly': aboveLimit({ noise: 0.05 }, false),
  'time above a low level that is jumped over again and again': {
    kind: 'time-beyond',
    unit: 'N',
    isBound: true,
    params: { to: 's' },
    watches: { of: { kind: 'beyond', params: { side: 'above', level: 5, hysteresis: 2 } } },
    draw(random) {
      // Ten jumps from 0 to 100: the straight line dates each at an end of the step.
      const begins = Array.from({ length: 10 }, (_, k) => k + between(random, 0.2, 0.5));
      const lengths = begins.map(() => between(random, 0.1, 0.4));
      const reading = (t: number) => (begins.some((b, k) => t > b && t < b + lengths[k]!) ? 100 : 0);
      return { stepS: 0.02, lengthS: 11, reading, noise: 0.1, truth: lengths.reduce((a, b) => a + b, 0) };
    },
  },
  'length of a stretch above a level that is passed fast': {
    kind: 'event-length',
    unit: 'N',
    params: { which: 'last' },
    watches: { of: { kind: 'beyond', params: { side: 'above', level: 5, hysteresis: 2 } } },
    draw(random) {
      const [begin, length] = [between(random, 1, 2), between(random, 1, 3)];
      const reading = (t: number) => (t > begin && t < begin + length ? 10 : 0);
      return { stepS: 0.02, lengthS: 6, reading, noise: 0.1, truth: length };
    },
  },
  'highest of a hump': {
    kind: 'extreme',
    unit: 'g',
    params: { which: 'highest' },
    isBound: true,
    draw(random) {
      const [middle, high] = [between(random, 4, 6), between(random, 2, 4)];
      const reading = (t: number) => high * Math.exp(-(((t - middle) / 0.8) ** 2));
      return { stepS: 0.01, lengthS: 10, reading, noise: 0.03, scale: 0.005, truth: high };
    },
  },
  'highest of what stands still': {
    kind: 'extreme',
    unit: 'g',
    params: { which: 'highest' },
    draw: () => ({ stepS: 0.01, lengthS: 20, reading: () => 1, noise: 0.03, truth: 1 }),
  },
  'fastest change of a swing': {
    kind: 'steepest',
    unit: 'degC',
    isBound: true,
    draw(random) {
      const turn = between(random, 0.5, 1);
      const reading = (t: number) => -10 * Math.cos(turn * t);
      return { stepS: 0.05, lengthS: Math.PI / turn, reading, noise: 0.02, truth: 10 * turn };
    },
  },
  'way there and back': {
    kind: 'path',
    unit: 'mm',
    params: { gives: 'path' },
    draw(random) {
      const far = between(random, 300, 500);
      const reading = (t: number) =>
        t < 5 ? 0 : t < 15 ? (far * (t - 5)) / 10 : t < 25 ? far - (far * (t - 15)) / 20 : far / 2;
      return { stepS: 0.01, lengthS: 30, reading, noise: 0.1, scale: 0.001, truth: 1.5 * far };
    },
  },
  'net way': {
    kind: 'path',
    unit: 'mm',
    params: { gives: 'net' },
    draw(random) {
      const far = between(random, 20, 30);
      const reading = (t: number) => (t < 5 ? 0 : t < 15 ? (far * (t - 5)) / 10 : far);
      return { stepS: 0.01, lengthS: 20, reading, noise: 0.1, scale: 0.001, truth: far };
    },
  },
  'last piece, from rest to rest': {
    kind: 'segment',
    unit: 'mm',
    watches: { of: { kind: 'steady', params: { windowS: 2, drift: 1, scatter: 1 } } },
    draw(random) {
      const far = between(random, 200, 300);
      const reading = (t: number) => (t < 8 ? 100 : t < 15 ? 100 + (far * (t - 8)) / 7 : 100 + far);
      return { stepS: 0.05, lengthS: 25, reading, noise: 0.1, scale: 0.001, truth: far };
    },
  },
  'mean of readings that hang together': {
    kind: 'mean',
    unit: 'degC',
    params: { windowS: 60 },
    draw(random) {
      const truth = between(random, 10, 30);
      return {
        stepS: 0.1,
        lengthS: 70,
        reading: () => truth,
        noise: 0.2,
        correlation: 0.8,
        scale: 0.0005,
        truth,
      };
    },
  },
  'wander of readings that hang together': {
    kind: 'wander',
    unit: 'degC',
    params: { windowS: 60 },
    draw: () => ({ stepS: 0.1, lengthS: 70, reading: () => 20, noise: 0.2, correlation: 0.8, truth: 0.2 }),
  },
  'spread of two channels': {
    kind: 'spread',
    unit: 'degC',
    others: ['other'],
    draw(random) {
      const truth = between(random, 2, 5);
      return { stepS: 1, lengthS: 30, reading: () => 60 + truth, other: () => 60, noise: 0.2, truth };
    },
  },
  'rate of rise with noise that hangs together': {
    kind: 'rate-of-rise',
    unit: 'degC',
    params: { windowS: 120, to: 'KPerMin' },
    draw(random) {
      const truth = between(random, 1, 3);
      const reading = (t: number) => 20 + (truth / 60) * t;
      return { stepS: 1, lengthS: 150, reading, noise: 0.1, correlation: 0.7, scale: 0.005, truth };
    },
  },
  'time to a target': {
    kind: 'time-to-target',
    unit: 'degC',
    params: { windowS: 120, target: 80, to: 'min' },
    draw(random) {
      const rate = between(random, 1, 3);
      const reading = (t: number) => 20 + (rate / 60) * t;
      // From the newest reading, which falls within the last step.
      return { stepS: 1, lengthS: 150, reading, noise: 0.1, correlation: 0.7, truth: 60 / rate - 149.5 / 60 };
    },
  },
  'sum over time': {
    kind: 'integral',
    unit: 'A',
    params: { to: 'mAh', counts: 'both ways' },
    draw(random) {
      const amperes = between(random, 0.5, 1);
      const reading = () => amperes;
      return {
        stepS: 0.1,
        lengthS: 60,
        reading,
        noise: 0.05,
        scale: 0.01,
        truth: (amperes * 59.9 * 1000) / 3600,
      };
    },
  },
  'last blow': {
    kind: 'event-size',
    unit: 'N',
    params: { which: 'last' },
    watches: { of: { kind: 'pulse', params: { level: 300, hysteresis: 100 } } },
    draw(random) {
      const [begin, high] = [between(random, 0.2, 0.3), between(random, 1000, 3000)];
      const reading = (t: number) => blow(t - begin, 0.01, high);
      return { stepS: 0.0005, lengthS: 0.5, reading, noise: 8, scale: 0.004, truth: high };
    },
  },
  'impulse of a blow': {
    kind: 'impulse',
    unit: 'N',
    isBound: true,
    watches: { of: { kind: 'pulse', params: { level: 60, hysteresis: 20 } } },
    draw(random) {
      const [begin, high] = [between(random, 0.2, 0.3), between(random, 1000, 3000)];
      const reading = (t: number) => blow(t - begin, 0.01, high);
      return {
        stepS: 0.0005,
        lengthS: 0.5,
        reading,
        noise: 8,
        scale: 0.004,
        truth: (high * 0.01 * 2) / Math.PI,
      };
    },
  },
  'capacity to the cut-off': {
    kind: 'capacity',
    unit: 'A',
    others: ['volts'],
    params: { cutOffV: 0.9, leastA: 0.05, gives: 'mAh' },
    draw(random) {
      const [amperes, seconds] = [between(random, 0.2, 0.5), between(random, 300, 500)];
      const reading = (t: number) => (t < 20 ? 0 : amperes);
      const other = (t: number) => 1.4 - (0.5 * Math.max(0, t - 20)) / seconds;
      return {
        stepS: 0.5,
        lengthS: 20 + seconds + 60,
        reading,
        other,
        noise: 0.002,
        scale: 0.01,
        truth: (amperes * seconds * 1000) / 3600,
      };
    },
  },
  'energy to the cut-off': {
    kind: 'capacity',
    unit: 'A',
    others: ['volts'],
    params: { cutOffV: 0.9, leastA: 0.05, gives: 'Wh' },
    draw(random) {
      const [amperes, seconds] = [between(random, 0.2, 0.5), between(random, 2000, 3000)];
      const reading = (t: number) => (t < 20 ? 0 : amperes);
      // Flat, and a steep end: where the cut-off is passed hardly tells on the energy.
      const other = (t: number) => (t < 20 + seconds ? 1.2 : 0.5);
      const truth = (amperes * 1.2 * seconds) / 3600;
      return { stepS: 1, lengthS: 60 + seconds, reading, other, noise: 0.002, scale: 0.01, truth };
    },
  },
  'energy of two channels': {
    kind: 'integral',
    unit: 'V',
    others: ['amperes'],
    params: { to: 'Wh', counts: 'both ways' },
    draw(random) {
      const [volts, amperes] = [between(random, 11, 13), between(random, 1, 2)];
      const truth = (volts * amperes * 599.5) / 3600;
      return {
        stepS: 1,
        lengthS: 600,
        reading: () => volts,
        other: () => amperes,
        noise: 0.02,
        scale: 0.01,
        truth,
      };
    },
  },
  'inner resistance by a load step': {
    kind: 'load-step',
    unit: 'V',
    others: ['amperes'],
    params: { leastA: 0.2, settleS: 5 },
    draw(random) {
      const [ohm, at] = [between(random, 0.1, 0.3), between(random, 20, 21)];
      const other = (t: number) => (t < at ? 0.1 : 1.1);
      const reading = (t: number) => 1.4 - ohm * other(t);
      return { stepS: 0.2, lengthS: 40, reading, other, noise: 0.002, scale: 0.01, truth: 1000 * ohm };
    },
  },
  'run-down time constant': {
    kind: 'run-down',
    unit: 'rpm',
    params: { gives: 'time constant', standstill: 6 },
    draw(random) {
      const truth = between(random, 8, 20);
      const reading = (t: number) => (t < 5 ? 0 : t < 30 ? 600 : 600 * Math.exp(-(t - 30) / truth));
      return { stepS: 0.1, lengthS: 160, reading, noise: 1, correlation: 0.5, truth };
    },
  },
  'scatter of intervals': {
    kind: 'interval-scatter',
    unit: 'g',
    params: { over: 50 },
    watches: { of: { kind: 'level', params: { level: 0.5, hysteresis: 0.2 } } },
    draw(random) {
      const beats = [0.5];
      while (beats.at(-1)! < 60) beats.push(beats.at(-1)! + 1 + 0.03 * random.normal());
      let k = 0;
      const reading = (t: number) => {
        while (k < beats.length - 1 && t > beats[k + 1]! - 0.3) k++;
        return Math.exp(-(((t - beats[k]!) / 0.05) ** 2));
      };
      return { stepS: 0.01, lengthS: 60, reading, noise: 0.01, truth: 3 };
    },
  },
  'speed over a course': {
    kind: 'course-speed',
    unit: 'N',
    params: { lengthM: 10, uncertaintyM: 0.1, to: 'mps' },
    watches: {
      from: { kind: 'level', params: { level: 5, hysteresis: 2 } },
      to: { kind: 'level', params: { level: -5, hysteresis: 2, direction: 'falling' } },
    },
    draw(random) {
      const [begin, time] = [between(random, 1, 2), between(random, 2, 4)];
      const reading = (t: number) => (t > begin && t < begin + 1 ? 10 : t > begin + time ? -10 : 0);
      const courseM = 10 + 0.05 * random.normal();
      return { stepS: 0.04, lengthS: 7, reading, noise: 0.1, truth: courseM / time };
    },
  },
};

/** A half sine. */
const blow = (s: number, widthS: number, high: number) =>
  s > 0 && s < widthS ? high * Math.sin((Math.PI * s) / widthS) : 0;

describe('stated 95 % intervals of figures hold in 93 to 97 of 100 streams, or in more where they are bounds', () => {
  it.each(Object.entries(TRIALS))('%s', (name, trial) => {
    let inside = 0;
    for (let seed = 1; seed <= SEEDS; seed++) {
      const random = seededRandom(9000 + seed);
      const stream = trial.draw(random);
      const { value, u, reason } = run(trial, stream, random);
      expect([name, seed, reason]).toEqual([name, seed, '']);
      expect(u).toBeGreaterThan(0);
      if (Math.abs(value - stream.truth) <= 2 * u) inside++;
    }
    // By chance alone the share is another by up to 2.5 of 100 with so many streams.
    expect((100 * inside) / SEEDS).toBeGreaterThanOrEqual(91.5);
    if (!trial.isBound) expect((100 * inside) / SEEDS).toBeLessThanOrEqual(98.5);
  });
});

/** Figures of a kind over given events or spectra, without a detector. */
const EXACT = budgetWith(() => ({ systematic: 0, noise: 0 }), null);

const made = (kind: string, params: FigureSpec['params'], others: readonly string[] = []) =>
  createFigures(
    [{ id: 'f', name: 'F', kind, watches: { of: 'of' }, others: [...others], params, askId: null }],
    ['of'],
    {
      unit: '1',
      sampleRateHz: 100,
      isDirection: false,
      budget: EXACT,
      budgetOf: () => EXACT,
      clockShare: 0,
      edgesOf: () => [],
      unitOf: () => '1',
    },
  );

describe('the next trial', () => {
  const rest = (timeS: number, value: number, what: 'start' | 'event' = 'event') => ({
    watchId: 'of',
    what,
    timeS,
    endS: timeS + 1,
    at: value,
    value,
    area: Number.NaN,
    uTimeS: 0,
    counted: true,
    why: '',
    lagS: 0,
  });

  it('of a piece from rest to rest is measured from where the last one ended, and a reset forgets that', () => {
    const figures = made('segment', {});
    figures.event(rest(0, 2));
    figures.next(1);
    expect(figures.now()[0]!.reason).toMatch(/Waiting for a move/);
    figures.event(rest(5, 2.3, 'start'));
    figures.event(rest(5, 2.3));
    expect(figures.now()[0]!.value).toBeCloseTo(0.3, 12);
    figures.next(6);
    figures.event(rest(9, 2.9, 'start'));
    figures.event(rest(9, 2.9));
    expect(figures.now()[0]!.value).toBeCloseTo(0.6, 12);
    figures.reset(10);
    figures.event(rest(12, 5));
    expect(figures.now()[0]!.value).toBeNaN();
  });

  it('of all else begins with nothing', () => {
    const figures = made('count', {});
    figures.event(rest(0, 1));
    figures.event(rest(2, 1));
    expect(figures.now()[0]!.value).toBe(2);
    figures.next(3);
    figures.event(rest(4, 1));
    expect(figures.now()[0]!.value).toBe(1);
  });
});

describe('time in a sector', () => {
  /** A vane that stands still so many degrees from the edge, with what its reading is worth. */
  const standing = (deg: number, systematic: number) => {
    const figures = createFigures(
      [
        {
          id: 'f',
          name: 'F',
          kind: 'time-beyond',
          watches: { of: 'of' },
          others: [],
          params: {},
          askId: null,
        },
      ],
      ['of'],
      {
        unit: 'deg',
        sampleRateHz: 10,
        isDirection: true,
        budget: budgetWith(() => ({ systematic, noise: 0 }), null),
        budgetOf: () => EXACT,
        clockShare: 0,
        edgesOf: () => [315, 45],
        unitOf: () => 'deg',
      },
    );
    for (let i = 0; i <= 100; i++) figures.reading(i / 10, deg, () => Number.NaN);
    return figures.now()[0]!;
  };

  it('is not known to the second where the reading is worth less than its way to the edge', () => {
    // Ten seconds in all: either side may be true, and 95 % is twice u.
    expect(2 * standing(19, 14).u).toBeCloseTo(10, 6);
    expect(standing(19, 14).how).toMatch(/For 10\.0 s the reading was so close to the level/);
    // Across north as well.
    expect(2 * standing(330, 14).u).toBeCloseTo(10, 6);
    expect(standing(19, 2).u).toBeLessThan(0.1);
    expect(standing(180, 14).u).toBeLessThan(0.1);
  });

  it('is not known at all where nobody knows what the reading is worth', () => {
    expect(standing(19, Number.NaN)).toMatchObject({ value: 0, u: Number.NaN });
  });
});

describe('bounds of figures that have no scatter of their own hold in 93 of 100 and more', () => {
  it('the peak of a band between five lamps', () => {
    const lamps = [470, 525, 560, 590, 625];
    let [inside, unknown] = [0, 0];
    for (let seed = 1; seed <= SEEDS; seed++) {
      const random = seededRandom(seed);
      const [truth, width] = [between(random, 500, 605), between(random, 25, 60)];
      // A band that is steeper on one side, as dyes have them.
      const at = (nm: number) => {
        const side = nm < truth ? 1.25 : 0.8;
        return Math.exp(-(((nm - truth) / (side * width)) ** 2) / 2) + 0.004 * random.normal();
      };
      const figures = made('peak-wavelength', { wavelengths: lamps }, ['b', 'c', 'd', 'e']);
      const readings = lamps.map(at);
      figures.reading(1, readings[0]!, (id) => readings['abcde'.indexOf(id)]!);
      const { value, u } = figures.now()[0]!;
      // Where the last lamp is highest, nothing is promised.
      if (Number.isNaN(u)) unknown++;
      else if (Math.abs(value - truth) <= 2 * u) inside++;
    }
    expect(unknown).toBeLessThan(SEEDS / 5);
    expect((100 * inside) / (SEEDS - unknown)).toBeGreaterThanOrEqual(93);
  });

  it.each([
    ['count', (beats: number) => beats],
    ['missed', (_beats: number, faults: number) => faults],
  ])('%s of beats, some too faint to be found and some counted twice', (kind, truth) => {
    let inside = 0;
    for (let seed = 1; seed <= SEEDS; seed++) {
      const random = seededRandom(seed);
      const figures = made(kind, {});
      const beats = 60;
      let faults = 0;
      let t = 0;
      let quiet = 0;
      for (let k = 0; k < beats; k++) {
        t += 1 + 0.04 * random.normal();
        const fault = k > 10 && k < beats - 1 && quiet <= 0 ? random.uniform() : 1;
        quiet--;
        const at = [...(fault < 0.03 ? [] : [t]), ...(fault > 0.03 && fault < 0.06 ? [t + 0.3] : [])];
        if (at.length !== 1) {
          faults++;
          quiet = 3;
        }
        for (const timeS of at)
          figures.event({
            what: 'event',
            watchId: 'of',
            timeS,
            endS: timeS,
            at: 0,
            value: 0,
            area: 0,
            uTimeS: 0,
            lagS: 0,
            counted: true,
            why: '',
          });
      }
      const { value, u } = figures.now()[0]!;
      if (Math.abs(value - truth(beats, faults)) <= 2 * u) inside++;
    }
    expect((100 * inside) / SEEDS).toBeGreaterThanOrEqual(93);
  });
});
