import { describe, expect, it } from 'vitest';
import {
  accuracy,
  agreement,
  allan,
  beforeAfter,
  bestAveraging,
  combineBudget,
  counting,
  eventCapture,
  foldedTones,
  caughtShare,
  falseCounts,
  monteCarlo,
  type MonteCarloInput,
  noise,
  repeatStudy,
  runsNeeded,
  sampling,
  type AccuracyReading,
} from '../src/prove/index.ts';
import {
  aliasHz,
  gateBeatsPeriodRpm,
  gateStepRpm,
  periodStepRpm,
  rateForPeak,
  timingUncertainty,
  worstPeakFraction,
} from '../src/numerics/index.ts';
import {
  chiSquareCdf,
  fUpperTail,
  mean,
  normalCdf,
  sampleSd,
  seededRandom,
  studentTCdf,
} from '../src/numerics/index.ts';
import { cases, relative } from './support/vectors.ts';

describe('agreement of two instruments', () => {
  it.each(cases('agreement'))('bias $bias', (c) => {
    const result = agreement(c.reference, c.device, 0);
    expect(relative(result.bias, c.bias)).toBeLessThan(1e-9);
    expect(relative(result.sd, c.sd)).toBeLessThan(1e-9);
    result.limits.forEach((v, k) => expect(relative(v, c.loa[k])).toBeLessThan(1e-9));
    result.biasInterval95.forEach((v, k) => expect(relative(v, c.bias_ci95[k])).toBeLessThan(1e-8));
    expect(relative(result.p, c.paired_t_p)).toBeLessThan(1e-8);
  });

  it('sees a disagreement that grows along the scale, and refuses too few pairs', () => {
    const x = Array.from({ length: 20 }, (_, i) => 10 + i);
    const result = agreement(
      x,
      x.map((v, i) => 1.1 * v + 0.01 * ((i * 7) % 3)),
      0,
    );
    expect(result.trend.p).toBeLessThan(1e-6);
    expect(() => agreement([1, 2], [1, 2], 0)).toThrow(/At least 3 pairs are needed; received 2/);
    expect(() => agreement([1, 2, 3], [1, 2], 0)).toThrow(/received 3 reference and 2 gadget/);
  });

  it('does not average away what the other instrument is good to', () => {
    const random = seededRandom(8);
    const truth = Array.from({ length: 200 }, (_, i) => i);
    const pairs = (u: number) =>
      agreement(
        truth,
        truth.map((v) => v + 0.1 * random.normal()),
        u,
      );
    expect(pairs(0).biasHalfWidth95).toBeLessThan(0.02);
    expect(pairs(0.5).biasHalfWidth95).toBeGreaterThan(0.97);
    expect(pairs(0.5).limitHalfWidth95).toBeGreaterThan(0.97);
    expect(pairs(Number.NaN).biasHalfWidth95).toBeNaN();
  });
});

describe('before and after', () => {
  it.each(cases('before_after'))('difference $difference', (c) => {
    const result = beforeAfter(c.before, c.after);
    expect(relative(result.difference, c.difference)).toBeLessThan(1e-9);
    expect(relative(result.degreesOfFreedom, c.df)).toBeLessThan(1e-9);
    result.interval95.forEach((v, k) => expect(relative(v, c.ci95[k])).toBeLessThan(1e-8));
    expect(relative(result.p, c.p)).toBeLessThan(1e-8);
    expect(relative(result.rankP, c.mann_whitney_p)).toBeLessThan(1e-9);
    expect(result.shown).toBe(c.ci95[0] > 0 || c.ci95[1] < 0);
  });

  it('does not change with the unit, and turns round with the sides', () => {
    const [a, b] = [
      [5.1, 5.3, 5.2, 5.6],
      [4.8, 5.0, 4.7],
    ];
    const plain = beforeAfter(a, b);
    expect(
      beforeAfter(
        a.map((v) => 60 * v),
        b.map((v) => 60 * v),
      ).p,
    ).toBeCloseTo(plain.p, 12);
    expect(beforeAfter(b, a).difference).toBeCloseTo(-plain.difference, 12);
    expect(beforeAfter(b, a).rankP).toBeCloseTo(plain.rankP, 12);
  });

  it('says nothing of results whose scatter a step of the display hides', () => {
    for (const [before, after] of [
      [
        [20, 20],
        [21, 21],
      ],
      [
        [3, 3],
        [3, 3],
      ],
      [
        [20, 21, 20],
        [21, 22, 22],
      ],
    ] as const) {
      const result = beforeAfter(before, after);
      expect(result).toMatchObject({ shown: false, p: Number.NaN });
      expect(result.interval95[0]).toBeNaN();
      expect(result.refused).toMatch(/display resolution|finer resolution/);
    }
    expect(beforeAfter([20, 23, 21, 25], [31, 33, 36, 30])).toMatchObject({ shown: true, refused: null });
  });

  it('knows ties and too few runs', () => {
    expect(beforeAfter([3, 4, 5, 7], [3, 4, 5, 7])).toMatchObject({ shown: false, p: 1, rankP: 1 });
    expect(() => beforeAfter([1], [2, 3])).toThrow(/received 1 and 2. Record more/);
  });

  it('tells how many runs would show the change, and that many do in four of five cases', () => {
    const n = runsNeeded(1, 1, 1);
    expect(n).toBe(17);
    const random = seededRandom(5);
    let seen = 0;
    for (let k = 0; k < 400; k++) {
      const run = (shift: number) => Array.from({ length: n }, () => shift + random.normal());
      if (beforeAfter(run(0), run(1)).shown) seen++;
    }
    expect(seen / 400).toBeGreaterThan(0.75);
    expect(seen / 400).toBeLessThan(0.87);
    expect(() => runsNeeded(0, 1, 1)).toThrow(/other than 0/);
  });
});

describe('Allan deviation', () => {
  it.each(cases('allan'))('$name', (c) => {
    allan(c.input, 1, c.m).forEach((p, i) => {
      expect(relative(p.deviation, c.adev[i])).toBeLessThan(1e-9);
      expect(relative(p.overlapping, c.oadev[i])).toBeLessThan(1e-9);
    });
  });

  it('says that averaging helps against noise and no longer against drift', () => {
    const random = seededRandom(11);
    const readings = Array.from({ length: 4096 }, (_, i) => random.normal() + 1e-3 * i);
    const points = allan(readings, 10, [1, 4, 16, 64, 256, 1024]);
    expect(points[1]!.overlapping / points[0]!.overlapping).toBeCloseTo(0.5, 1);
    const best = bestAveraging(points)!;
    expect(best.m).toBeGreaterThan(16);
    expect(best.m).toBeLessThan(1024);
    expect(best.tauS).toBe(best.m / 10);
    expect(allan(readings, 10, [4000])).toEqual([]);
    expect(() => allan([1, 2], 1, [1])).toThrow(/received 2/);
  });
});

describe('sampling', () => {
  it.each(cases('peak_capture'))('a pulse of $width_s s at $sample_rate_hz Hz', (c) => {
    expect(worstPeakFraction(c.width_s, c.sample_rate_hz)).toBeCloseTo(c.worst_fraction, 12);
  });

  it('asks for the rate that loses no more than allowed', () => {
    const rate = rateForPeak(0.005, 0.1);
    expect(worstPeakFraction(0.005, rate)).toBeCloseTo(0.9, 12);
    expect(() => rateForPeak(0.005, 0)).toThrow(/received 0/);
  });

  it('folds tones down', () => {
    expect(aliasHz(60, 50)).toBe(10);
    expect(aliasHz(100, 50)).toBe(0);
    expect(aliasHz(20, 50)).toBe(20);
  });

  it('times by instants or between them', () => {
    expect(timingUncertainty(25, 10, 0)).toBeCloseTo(Math.SQRT2 / (25 * Math.sqrt(12)), 12);
    expect(timingUncertainty(25, 10, 0, { noise: 0.01, slope: 2 })).toBeCloseTo(Math.SQRT2 * 0.005, 12);
    expect(timingUncertainty(1e9, 1000, 50)).toBeCloseTo(0.05 / Math.sqrt(3), 6);
  });

  it('gate and period cross where their steps are equal', () => {
    const rpm = gateBeatsPeriodRpm(4, 1, 4e-6);
    expect(periodStepRpm(rpm, 4, 4e-6)).toBeCloseTo(gateStepRpm(4, 1), 9);
  });

  it('reads rate, jitter, gaps, duplicates and time going backwards off real stamps', () => {
    const random = seededRandom(3);
    const times = Array.from({ length: 1000 }, (_, i) => i / 50 + 0.0005 * random.normal());
    const broken = [...times.slice(0, 400), ...times.slice(420, 700), times[699]!, ...times.slice(700)];
    const result = sampling(broken);
    expect(result.rateHz).toBeCloseTo(50, 0);
    expect(result.jitterS).toBeGreaterThan(0.0004);
    expect(result.jitterS).toBeLessThan(0.001);
    expect(result.gaps).toHaveLength(1);
    expect(result.gaps[0]!.count).toBe(20);
    expect(result.duplicates).toBe(1);
    expect(result.lost).toBeCloseTo(0.02, 3);
    expect(sampling([0, 1, 2, 1.5, 3, 4]).backwards).toBe(1);
    expect(() => sampling([1])).toThrow(/received 1/);
  });

  it('judges the event and the interferers at the real rate', () => {
    const even = sampling(Array.from({ length: 500 }, (_, i) => i / 80));
    const capture = eventCapture(even, 0.01, 50);
    expect(capture.worstPeakFraction).toBe(0);
    const [hum, near] = foldedTones(even.rateHz, 50, [50, 79]);
    expect(hum!.atHz).toBeCloseTo(30, 6);
    expect(near!.inBand).toBe(true);
  });
});

describe('noise', () => {
  it('counts effective bits: an ideal converter has them all', () => {
    const random = seededRandom(6);
    const readings = Array.from({ length: 20000 }, () => random.uniform());
    const result = noise(readings, 1024);
    expect(result.effectiveBits).toBeCloseTo(10, 1);
    expect(result.histogram.counts.reduce((a, b) => a + b, 0)).toBe(20000);
    expect(noise(Array<number>(50).fill(7), 1024)).toMatchObject({ effectiveBits: null, steadyBits: null });
    expect(() => noise([1, 2], 5)).toThrow(/At least 16 readings are needed to measure noise; received 2/);
    expect(() => noise([...Array(20).keys(), Number.NaN], 5)).toThrow(/must be numbers/);
  });
});

describe('accuracy', () => {
  const readings: AccuracyReading[] = [0, 10, 20, 30].flatMap((reference, i) =>
    (['up', 'down'] as const).flatMap((approach, k) =>
      [0, 1].map((repeat) => ({
        reference,
        shown: reference + 0.5 + (approach === 'down' ? 0.2 : 0) + (repeat ? 0.05 : -0.05),
        approach,
        session: repeat ? 'a' : 'b',
        timeS: 3600 * (4 * i + 2 * k + repeat),
      })),
    ),
  );

  it('takes it apart', () => {
    const result = accuracy(readings, 0);
    expect(accuracy(readings, 0.2).biasHalfWidth95).toBeGreaterThan(0.392);
    expect(accuracy(readings, Number.NaN).biasHalfWidth95).toBeNaN();
    expect(result.bias).toBeCloseTo(0.6, 12);
    expect(result.hysteresis).toBeCloseTo(0.2, 12);
    expect(result.linearity).toBeCloseTo(0, 12);
    expect(result.repeatabilitySd).toBeCloseTo(Math.sqrt(0.05 / 3), 9);
    expect(result.resolution).toBeGreaterThan(0);
    expect(result.driftPerHour!.u).toBeGreaterThan(0);
  });

  it('says nothing about what was not tried', () => {
    expect(accuracy([{ reference: 1, shown: 1.1 }], 0)).toMatchObject({
      repeatabilitySd: null,
      reproducibilitySd: null,
      linearity: null,
      hysteresis: null,
      driftPerHour: null,
      resolution: null,
      biasHalfWidth95: Number.NaN,
    });
  });
});

describe('counting', () => {
  it.each([
    [[{ truth: 50, counted: 50 }], 'not shown'],
    [[50, 60, 70].map((truth) => ({ truth, counted: truth })), 'pass'],
    [[50, 60, 70].map((truth) => ({ truth, counted: 2 * truth })), 'fail'],
    [[50, 60, 70].map((truth) => ({ truth, counted: truth + 3 })), 'not shown'],
    // Errors that cancel are errors.
    [[120, 80, 100].map((counted) => ({ truth: 100, counted })), 'fail'],
    [[103, 97, 104, 96].map((counted) => ({ truth: 100, counted })), 'not shown'],
  ] as const)('%j is %s', (trials, state) => expect(counting(trials, 0.05).state).toBe(state));

  it('tells apart what is missing and what is too many', () =>
    expect(
      counting(
        [120, 80, 100].map((counted) => ({ truth: 100, counted })),
        0.05,
      ),
    ).toMatchObject({
      pooledError: 0,
      missed: 20,
      extra: 20,
    }));

  it('covers the true error of a counter that loses some, in nearly all of many studies', () => {
    const random = seededRandom(21);
    let covered = 0;
    for (let k = 0; k < 500; k++) {
      const trials = Array.from({ length: 5 }, () => {
        const counted = Array.from({ length: 100 }).filter(() => random.uniform() > 0.08).length;
        return { truth: 100, counted };
      });
      const { pooledError, pooledHalfWidth95 } = counting(trials, 0.05);
      if (Math.abs(pooledError + 0.08) <= pooledHalfWidth95) covered++;
    }
    expect(covered / 500).toBeGreaterThan(0.92);
    expect(covered / 500).toBeLessThan(0.99);
  });

  it('none in a short negative test is not yet good enough', () => {
    // Exact limits of Clopper and Pearson, as scipy's beta distribution gives them.
    expect(caughtShare(9, 10)).toEqual({
      lower95: expect.closeTo(0.6058367, 6) as number,
      upper95: expect.closeTo(0.9948838, 6) as number,
    });
    expect(caughtShare(3, 3).lower95).toBeCloseTo(0.05 ** (1 / 3), 9);
    expect(caughtShare(3, 3).upper95).toBe(1);
    expect(caughtShare(0, 5).lower95).toBe(0);
    expect(caughtShare(0, 5).upper95).toBeCloseTo(0.4507197, 6);
    expect(() => caughtShare(4, 3)).toThrow(/4 of 3 events/);
    expect(falseCounts(0, 2, 0.5)).toMatchObject({ perMinute: 0, state: 'not shown' });
    expect(falseCounts(0, 2, 0.5).upper95PerMinute).toBeCloseTo(1.498, 3);
    expect(falseCounts(0, 10, 0.5).state).toBe('pass');
    expect(falseCounts(40, 10, 0.5).state).toBe('fail');
    expect(() => falseCounts(0, 0, 1)).toThrow(/in 0 min/);
    expect(() => counting([{ truth: 0, counted: 1 }], 0.1)).toThrow(/received 0 and 1/);
  });
});

describe('two items, two people', () => {
  const make = (sd: { item: number; by: number; repeat: number }, seed: number) => {
    const random = seededRandom(seed);
    const items = Array.from({ length: 12 }, () => sd.item * random.normal());
    const people = Array.from({ length: 8 }, () => sd.by * random.normal());
    return items.flatMap((a, i) =>
      people.flatMap((b, j) =>
        [0, 1, 2].map(() => ({ item: `i${i}`, by: `p${j}`, value: a + b + sd.repeat * random.normal() })),
      ),
    );
  };

  it('finds where the variance comes from', () => {
    const study = repeatStudy(make({ item: 3, by: 1, repeat: 0.5 }, 4));
    expect(Math.sqrt(study.repeatability)).toBeCloseTo(0.5, 1);
    expect(Math.sqrt(study.by)).toBeGreaterThan(0.5);
    expect(Math.sqrt(study.by)).toBeLessThan(1.7);
    expect(study.shares.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 12);
    expect(study.pBy).toBeLessThan(1e-6);
    expect(repeatStudy(make({ item: 3, by: 0, repeat: 0.5 }, 9)).pBy).toBeGreaterThan(0.02);
  });

  it('refuses an unbalanced study and says what is missing', () => {
    expect(() => repeatStudy(make({ item: 1, by: 1, repeat: 1 }, 1).slice(1))).toThrow(
      /equally many repeats for every combination.*Add the missing readings/,
    );
  });
});

describe('Monte Carlo budget', () => {
  const inputs = [
    { title: 'a', value: 2, halfWidth: 0.1, distribution: 'normal' as const },
    { title: 'b', value: 3, halfWidth: 0.3, distribution: 'rectangular' as const },
    { title: 'c', value: 0, halfWidth: 0.2, distribution: 'triangular' as const },
    { title: 'd', value: 0, halfWidth: 0.2, distribution: 'u-shaped' as const },
  ];

  it('agrees with the straight budget where the model is straight', () => {
    const drawn = monteCarlo(inputs, ([a, b, c, d]) => 2 * a! + b! + c! + d!, 40000, 3);
    const straight = combineBudget(
      inputs.map((v, i) => ({
        ...v,
        unit: '',
        sensitivity: i === 0 ? 2 : 1,
        degreesOfFreedom: Infinity,
        source: '',
      })),
    );
    expect(drawn.sd / straight.combined).toBeCloseTo(1, 1);
    expect(drawn.mean).toBeCloseTo(7, 1);
    expect(drawn).toEqual(monteCarlo(inputs, ([a, b, c, d]) => 2 * a! + b! + c! + d!, 40000, 3));
  });

  it('gives the shortest interval, shorter than the symmetric one of what is skewed', () => {
    const exponential = monteCarlo(
      [{ title: 'u', value: 0.5, halfWidth: 0.5, distribution: 'rectangular' }],
      ([u]) => -Math.log(u!),
      100_000,
      4,
    );
    // Of an exponential distribution it goes from 0 to -ln 0.05.
    expect(exponential.shortest95[0]).toBeLessThan(0.01);
    expect(exponential.shortest95[1]).toBeCloseTo(-Math.log(0.05), 1);
    expect(exponential.high95).toBeCloseTo(-Math.log(0.025), 1);
  });

  it('counts what gives no number and refuses too few draws', () => {
    expect(monteCarlo(inputs, ([, , c]) => Math.sqrt(c!), 2000, 1).bad).toBeGreaterThan(800);
    expect(() => monteCarlo(inputs, () => 1, 10, 1)).toThrow(/at least 1000 draws; received 10/);
  });
});

describe('published examples', () => {
  const normal = (title: string, value: number, u: number) => ({
    title,
    value,
    halfWidth: u,
    distribution: 'normal' as const,
  });
  const even = (title: string, value: number, halfWidth: number) => ({
    title,
    value,
    halfWidth,
    distribution: 'rectangular' as const,
  });
  const asBudget = (inputs: readonly MonteCarloInput[], sensitivities: readonly number[]) =>
    combineBudget(
      inputs.map((v, i) => ({
        ...v,
        unit: '',
        sensitivity: sensitivities[i]!,
        degreesOfFreedom: Infinity,
        source: '',
      })),
    );

  // JCGM 100:2008, H.2: resistance, reactance and impedance from five sets of volts, amperes and phase, taken together.
  it('H.2: quantities that were measured together', () => {
    const volts = [5.007, 4.994, 5.005, 4.99, 4.999];
    const milliamperes = [19.663, 19.639, 19.64, 19.685, 19.678];
    const radians = [1.0456, 1.0438, 1.0468, 1.0428, 1.0433];
    const columns = [volts, milliamperes.map((v) => v / 1000), radians];
    const means = columns.map(mean);
    const us = columns.map((c) => sampleSd(c) / Math.sqrt(5));
    const r = (a: number, b: number) =>
      columns[a]!.reduce((s, v, i) => s + (v - means[a]!) * (columns[b]![i]! - means[b]!), 0) /
      (4 * 5 * us[a]! * us[b]!);
    expect(means[0]).toBeCloseTo(4.999, 4);
    expect([us[0]! * 1000, us[1]! * 1e6, us[2]! * 1000]).toEqual([
      expect.closeTo(3.2, 1),
      expect.closeTo(9.5, 1),
      expect.closeTo(0.75, 2),
    ]);
    expect([r(0, 1), r(0, 2), r(1, 2)]).toEqual([
      expect.closeTo(-0.36, 2),
      expect.closeTo(0.86, 2),
      expect.closeTo(-0.65, 2),
    ]);
    const [v, i, phase] = means as [number, number, number];
    const together = [
      { first: 0, second: 1, r: r(0, 1) },
      { first: 0, second: 2, r: r(0, 2) },
      { first: 1, second: 2, r: r(1, 2) },
    ];
    const worth = (sensitivities: readonly number[]) =>
      combineBudget(
        us.map((u, k) => ({
          title: '',
          halfWidth: u,
          unit: '',
          distribution: 'normal',
          sensitivity: sensitivities[k]!,
          degreesOfFreedom: 4,
          source: '',
        })),
        together,
      ).combined;
    const [c, s] = [Math.cos(phase), Math.sin(phase)];
    expect((v / i) * c).toBeCloseTo(127.732, 3);
    expect((v / i) * s).toBeCloseTo(219.847, 3);
    expect(v / i).toBeCloseTo(254.26, 2);
    expect(worth([c / i, (-v / i ** 2) * c, (-v / i) * s])).toBeCloseTo(0.071, 3);
    // The Guide carries rounded u and r on: 0.295 there, 0.2956 from what was measured.
    expect(Math.abs(worth([s / i, (-v / i ** 2) * s, (v / i) * c]) - 0.295)).toBeLessThan(0.001);
    expect(worth([1 / i, -v / i ** 2, 0])).toBeCloseTo(0.236, 3);
    expect(() => combineBudget([], [{ first: 0, second: 0, r: 2 }])).toThrow(/from −1 to 1; received 2/);
  });

  // JCGM 101:2008, 9.2: the sum of four. Tables 2 to 4.
  it.each([
    ['9.2.2', 'normal', [1, 1, 1, 1], 2, 3.92, 3.92],
    ['9.2.3', 'rectangular', [1, 1, 1, 1], 2, 3.92, 3.88],
    ['9.2.4', 'rectangular', [1, 1, 1, 10], 10.1, 19.9, 17],
  ] as const)('%s: a sum of four %s ones', (_, distribution, us, u, straight, half) => {
    const inputs = us.map((v, i) => ({
      title: `X${i + 1}`,
      value: 0,
      halfWidth: distribution === 'normal' ? v : v * Math.sqrt(3),
      distribution,
    }));
    const drawn = monteCarlo(inputs, (x) => x.reduce((a, b) => a + b, 0), 400_000, 5);
    expect(drawn.sd / u).toBeCloseTo(1, 2);
    expect(drawn.high95 / half).toBeCloseTo(1, 2);
    expect(-drawn.low95 / half).toBeCloseTo(1, 2);
    const budget = asBudget(inputs, [1, 1, 1, 1]);
    expect(budget.combined / u).toBeCloseTo(1, 2);
    expect(budget.expanded / straight).toBeCloseTo(1, 2);
  });

  // JCGM 101:2008, 9.3, table 5: a mass against a standard in air; a first-order budget says a third too little.
  it('9.3: a mass calibration', () => {
    const inputs = [
      normal('reference', 100_000, 0.05),
      normal('small mass', 1.234, 0.02),
      even('density of air', 1.2, 0.1),
      even('density of the weight', 8000, 1000),
      even('density of the reference', 8000, 50),
    ];
    const model = ([reference, small, air, weight, standard]: readonly number[]) =>
      (reference! + small!) * (1 + (air! - 1.2) * (1 / weight! - 1 / standard!)) - 100_000;
    const drawn = monteCarlo(inputs, model, 400_000, 6);
    expect(drawn.mean).toBeCloseTo(1.234, 3);
    expect(drawn.sd).toBeCloseTo(0.0754, 3);
    expect(drawn.shortest95[0]).toBeCloseTo(1.083, 2);
    expect(drawn.shortest95[1]).toBeCloseTo(1.383, 2);
    // At the middle the model has no slope by the densities: 0.0539, [1.1285, 1.3395].
    expect(asBudget(inputs, [1, 1, 0, 0, 0]).combined).toBeCloseTo(0.0539, 4);
  });

  // JCGM 101:2008, 9.4, table 6 (no correlation): loss of power, X1² + X2² about so much, in millionths.
  it.each([
    [0, 50, 50, 0, 150],
    [0.01, 150, 112, 0, 367],
    [0.05, 2551, 502, 1590, 3543],
  ])('9.4: loss of power at %s', (at, value, u, low, high) => {
    const inputs = [normal('real part', at, 0.005), normal('imaginary part', 0, 0.005)];
    const drawn = monteCarlo(inputs, ([a, b]) => 1e6 * (a! ** 2 + b! ** 2), 400_000, 7);
    expect(drawn.mean / value).toBeCloseTo(1, 1.7);
    expect(drawn.sd / u).toBeCloseTo(1, 1.7);
    expect(Math.abs(drawn.shortest95[0] - low)).toBeLessThan(0.02 * high);
    expect(drawn.shortest95[1] / high).toBeCloseTo(1, 1.7);
  });
});

describe('distributions', () => {
  it('know their textbook values', () => {
    expect(normalCdf(1.959963984540054)).toBeCloseTo(0.975, 12);
    expect(normalCdf(-3)).toBeCloseTo(0.0013498980316300957, 12);
    expect(studentTCdf(2.2281388519649385, 10)).toBeCloseTo(0.975, 10);
    expect(chiSquareCdf(3.841458820694124, 1)).toBeCloseTo(0.95, 10);
    expect(fUpperTail(4.964602743730711, 1, 10)).toBeCloseTo(0.05, 9);
  });
});
