import { describe, expect, it } from 'vitest';
import { worstPeakFraction } from '../src/numerics/index.ts';
import { compileLine } from '../src/line/index.ts';
import type { Calibration, ChannelBrief, CalibrationPoint, LineSpec } from '../src/model/index.ts';
import { briefOfAsk, TEMPLATES, thermistorLine } from '../src/plan/index.ts';
import {
  combineBudget,
  neededRateHz,
  pooledNoise,
  proveChannel,
  type BudgetLine,
  keptOfEvent,
  type ProofInput,
  type SensorOwn,
  type ReadingBudget,
} from '../src/prove/index.ts';
import { guardBandVerdict } from '../src/verdict/index.ts';

const whole = TEMPLATES[0]!.make().brief!;
const kilnBrief = briefOfAsk(whole, whole.asks[0]!);

/** A sensor of its own so good that nothing of it counts. */
const perfect: SensorOwn = {
  title: 'Perfect probe',
  unit: 'degC',
  signal: 'number',
  accuracyFixed: 0,
  accuracyShare: 0,
  afterTrueUp: 1e-6,
  responseS: 0,
  noise: 0,
};
const prove = (input: Omit<ProofInput, 'sensor' | 'atMs'> & Partial<ProofInput>) =>
  proveChannel({ sensor: perfect, atMs: Date.parse('2026-02-01T00:00:00Z'), ...input });

/** A calibration in use that leaves nothing over. */
const madeOf = (result: Pick<Calibration['result'], 'validRaw' | 'validReading'>): Calibration => ({
  id: 'c',
  channelId: 'p1',
  number: 1,
  state: 'in use',
  result: {
    title: 'Offset',
    degreesOfFreedom: 3,
    birge: 1,
    parameters: [],
    covariance: [],
    edits: [],
    residuals: [],
    leaveOneOutRms: 0,
    ...result,
  } as unknown as Calibration['result'],
  pointIds: [],
  note: '',
  createdAt: '2026-01-01T00:00:00Z',
  usedAt: '2026-01-01T00:00:00Z',
});

describe('guardBandVerdict', () => {
  it.each([
    [0.31, 0.42, 1, 'pass', /0\.31 °C too high, uncertainty ±0\.42\. Within ±1, with 0\.27 to spare/],
    [-0.58, 0.42, 1, 'pass', /0\.58 °C too low.*with 0\.00 to spare/],
    [0.6, 0.42, 1, 'not shown', /Neither inside nor outside ±1 for certain: use a better reference/],
    [1.3, 0.42, 1, 'not shown', /Neither inside nor outside/],
    [1.43, 0.42, 1, 'fail', /Outside ±1, by at least 0\.01/],
    [0.1, 1.5, 1, 'not shown', /not accurate enough/],
    [Number.NaN, 0.1, 1, 'not shown', /no reading to judge/],
  ] as const)('error %d, U %d, tolerance %d is %s', (error, u, tolerance, state, sentence) => {
    const verdict = guardBandVerdict(error, u, tolerance, 'degC');
    expect(verdict.state).toBe(state);
    expect(verdict.sentence).toMatch(sentence);
  });

  it('says neither high nor low when the error prints as zero', () => {
    expect(guardBandVerdict(0.001, 0.4, 1, 'degC').sentence).toMatch(/^0\.00 °C error, uncertainty/);
  });
});

describe('combineBudget', () => {
  const line = (
    halfWidth: number,
    distribution: BudgetLine['distribution'],
    degreesOfFreedom = Infinity,
    sensitivity = 1,
  ): BudgetLine => ({
    title: 't',
    halfWidth,
    unit: 'nm',
    distribution,
    sensitivity,
    degreesOfFreedom,
    source: '',
  });

  // JCGM 100:2008, example H.1 (end-gauge), the standard uncertainties of table H.1 with their degrees of freedom.
  it('reproduces the end-gauge example of the Guide', () => {
    const result = combineBudget([
      line(25, 'normal', 18),
      line(9.7, 'normal', 25.6),
      line(2.9, 'normal', 50),
      line(16.6, 'normal', 2),
    ]);
    expect(result.combined).toBeCloseTo(31.7, 1);
    expect(Math.floor(result.effectiveDegreesOfFreedom)).toBe(16);
  });

  it('divides by the distribution and multiplies by the sensitivity', () => {
    const result = combineBudget([
      line(1, 'rectangular'),
      line(1, 'triangular'),
      line(1, 'u-shaped', Infinity, 2),
      line(3, 'normal, k = 2'),
    ]);
    expect(result.contributions).toEqual([
      expect.closeTo(1 / Math.sqrt(3), 12),
      expect.closeTo(1 / Math.sqrt(6), 12),
      expect.closeTo(Math.SQRT2, 12),
      1.5,
    ]);
    expect(result.shares.reduce((a, b) => a + b)).toBeCloseTo(1, 12);
    expect(result.coverageFactor).toBeCloseTo(1.96, 2);
  });

  it('gives nothing for nothing and refuses a negative width', () => {
    expect(combineBudget([])).toMatchObject({ combined: 0, expanded: 0, shares: [] });
    expect(() => combineBudget([line(-1, 'normal')])).toThrow(/half-width of 0 or more; received -1 nm/);
  });
});

describe('neededRateHz', () => {
  const brief = kilnBrief;
  it.each<[ChannelBrief['fastest'], number]>([
    [{ kind: 'ramp', ratePerS: 0.3 }, 1.5],
    [{ kind: 'tone', frequencyHz: 2 }, 20],
    // The worst captured share of a half-sine at this rate is cos(pi / (2 f w)): what the tolerance of the highest leaves.
    [
      { kind: 'pulse', widthS: 0.01 },
      Math.PI / (2 * 0.01 * Math.acos(1 - kilnBrief.tolerance / kilnBrief.high)),
    ],
  ])('%j asks for %d readings a second', (fastest, rate) => {
    expect(neededRateHz({ ...brief, fastest })).toBeCloseTo(rate, 9);
  });
});

describe('a pulse', () => {
  const blow: ChannelBrief = {
    ...kilnBrief,
    unit: 'N',
    low: 0,
    high: 1600,
    tolerance: 50,
    fastest: { kind: 'pulse', widthS: 0.012 },
  };
  const ride: ChannelBrief = { ...blow, unit: 'gn', low: -6, high: 6, tolerance: 0.05 };

  it('is followed so closely that no more of its peak is lost than the tolerance', () => {
    expect(neededRateHz(blow)).toBeCloseTo(522.2, 1);
    expect(neededRateHz({ ...ride, fastest: { kind: 'pulse', widthS: 0.03 } })).toBeCloseTo(405.3, 1);
    for (const tolerance of [1, 16, 50, 400]) {
      const rate = neededRateHz({ ...blow, tolerance });
      expect(1600 * (1 - worstPeakFraction(0.012, rate))).toBeCloseTo(tolerance, 6);
      expect(1600 * (1 - worstPeakFraction(0.012, 0.99 * rate))).toBeGreaterThan(tolerance);
    }
    // However wide the tolerance, the pulse itself must be seen.
    expect(neededRateHz({ ...blow, tolerance: 5000 })).toBeCloseTo(
      neededRateHz({ ...blow, tolerance: 800 }),
      9,
    );
  });

  it('of 1600 N, ±50, is not followed by 290 readings a second', () => {
    const line = compileLine({ sources: [{ column: 'f', unit: 'N' }], stages: [] }, { sampleRateHz: 1000 });
    const rate = (achievedHz: number) =>
      prove({ line, brief: blow, calibration: null, points: [], achievedHz }).claims.find(
        (c) => c.id === 'rate',
      )!.state;
    expect([290, 522, 523].map(rate)).toEqual(['fail', 'fail', 'pass']);
  });
});

describe('proveChannel', () => {
  const brief = kilnBrief;
  const line = compileLine(thermistorLine('p'), { sampleRateHz: 10 });
  const point = (role: 'fit' | 'check', value: number, mean: number): CalibrationPoint => ({
    id: `${role}${value}`,
    channelId: 'p1',
    role,
    // Each another instrument.
    reference: { kind: 'instrument', reading: value, uncertainty: 0.2 + 0.001 * mean },
    worth: { title: 't', value, unit: 'degC', uncertainty: 0.2, workings: [] },
    capture: { mean, sd: 0.6, n: 100, nEffective: 100, durationS: 10 },
    excluded: null,
    keptAt: '2026-01-01T00:00:00Z',
  });

  it('shows nothing without points, calibration and link, and says what would', () => {
    const proof = prove({ line, brief, calibration: null, points: [], achievedHz: null });
    expect(proof.shown).toBe(0);
    expect(proof.claims.map((c) => c.state)).toEqual(Array(5).fill('not shown'));
    expect(proof.claims.every((c) => c.next !== '')).toBe(true);
  });

  it('judges rate and noise as soon as they are measured', () => {
    const proof = prove({
      line,
      brief,
      calibration: null,
      points: [point('fit', 60, 439.6)],
      achievedHz: 10,
    });
    expect(proof.claims.find((c) => c.id === 'rate')!.state).toBe('pass');
    expect(proof.claims.find((c) => c.id === 'noise')!.state).toBe('pass');
    const slow = prove({ line, brief, calibration: null, points: [], achievedHz: 1 });
    expect(slow.claims.find((c) => c.id === 'rate')).toMatchObject({
      state: 'fail',
      sentence: expect.stringMatching(/1.00 readings.*1.50 needed/),
    });
  });

  it('takes the worst check point, and names those that were left out by hand and contradict', () => {
    const good = point('check', 60, 439.56);
    const bad = point('check', 20, 830);
    const both = prove({ line, brief, calibration: null, points: [good, bad], achievedHz: 10 });
    expect(both.claims[0]).toMatchObject({ state: 'fail', sentence: expect.stringMatching(/^Worst of 2/) });
    const left = prove({
      line,
      brief,
      calibration: null,
      points: [good, { ...bad, excluded: 'lead came off' }],
      achievedHz: 10,
    });
    expect(left.claims[0]).toMatchObject({
      state: 'not shown',
      sentence: expect.stringMatching(/Excluded point: at 20\.0 °C the reading was .* too (low|high)/),
    });
    const harmless = prove({
      line,
      brief,
      calibration: null,
      points: [good, { ...point('check', 60, 439.5), id: 'again', excluded: 'kept twice' }],
      achievedHz: 10,
    });
    expect(harmless.claims[0]!.state).toBe('pass');
  });

  it('a calibration that is overdue promises nothing, until a check agrees', () => {
    const budgetOf = (createdAt: string, points: CalibrationPoint[] = [], goodForMonths = 12) =>
      prove({
        line,
        brief,
        calibration: {
          ...madeOf({ validRaw: [100, 900], validReading: [0, 110] }),
          createdAt,
          goodForMonths,
          pointIds: ['fit60'],
        },
        points: [point('fit', 60, 439.6), ...points],
        achievedHz: 10,
      }).claims.find((c) => c.id === 'budget')!;
    expect(budgetOf('2025-06-01T00:00:00Z').state).toBe('pass');
    const old = budgetOf('2024-12-01T00:00:00Z');
    expect(old).toMatchObject({ state: 'not shown', by: 'check point' });
    expect(old.sentence).toMatch(/was due for a check by 2025-12-01/);
    expect(budgetOf('2024-12-01T00:00:00Z', [], 24).state).toBe('pass');
    // One that agrees is the check; one that does not is none.
    expect(budgetOf('2024-12-01T00:00:00Z', [point('check', 60, 439.56)]).state).toBe('pass');
    expect(budgetOf('2024-12-01T00:00:00Z', [point('check', 20, 830)]).state).toBe('not shown');
  });

  describe('what counts as a check', () => {
    const checkOf = (points: CalibrationPoint[], pointIds: string[]) =>
      prove({
        line,
        brief,
        calibration: { ...madeOf({ validRaw: [100, 900], validReading: [0, 110] }), pointIds },
        points,
        achievedHz: 10,
      }).claims.find((c) => c.id === 'check')!;
    // The line reads 60 at 439.56 codes, and 4 too much at the second.
    const right = point('check', 60, 439.56);
    const wrong = { ...point('fit', 56, 439.56), id: 'later' };

    it('is no point of the fit, whatever it is called since', () => {
      const told = checkOf([right], [right.id]);
      expect(told.state).toBe('not shown');
      expect(told.sentence).toMatch(/was used in the fit itself, so it does not count as a check/);
      expect(checkOf([right], []).state).toBe('pass');
    });

    it('is every point that the fit has not seen, also one that was kept for a next fit', () => {
      expect(checkOf([{ ...right, role: 'fit' }], []).state).toBe('pass');
      expect(checkOf([right, wrong], []).state).toBe('fail');
      expect(checkOf([right, wrong], []).next).toMatch(/Calibrate again/);
    });

    it('is none that was kept too long ago, or with a reference that nobody had checked for years', () => {
      const aged = { ...right, keptAt: '2024-01-01T00:00:00Z' };
      expect(checkOf([aged], [])).toMatchObject({
        state: 'not shown',
        sentence: expect.stringMatching(/is 762 days old; check points expire after 365 days/) as string,
      });
      const own = (checkedOn: string): CalibrationPoint => ({
        ...right,
        reference: {
          kind: 'own',
          referenceId: 'r',
          title: 'Bath',
          value: 60,
          uncertainty: 0.2,
          unit: 'degC',
          checkedOn,
        },
      });
      expect(checkOf([own('2025-06-01')], []).state).toBe('pass');
      expect(checkOf([own('2022-06-01')], [])).toMatchObject({
        state: 'not shown',
        sentence: expect.stringMatching(/had not been checked for more than 2 years/) as string,
      });
    });

    it('is none with the reference of the fit alone, whatever it reads', () => {
      const bath = { kind: 'instrument' as const, reading: 1, uncertainty: 0.2 };
      const fitted = { ...point('fit', 0, 700), id: 'fitted', reference: bath };
      const told = checkOf([fitted, { ...right, reference: bath }], ['fitted']);
      expect(told.state).toBe('not shown');
      expect(told.sentence).toMatch(/use the same reference/);
      expect(told.next).toMatch(/a different reference/);
      expect(
        checkOf(
          [
            { ...fitted, reference: { kind: 'ice-slurry' } },
            { ...right, reference: bath },
          ],
          ['fitted'],
        ).state,
      ).toBe('pass');
    });

    it('is none that lies only where the fit has its own points', () => {
      const fitted = { ...point('fit', 60, 439.56), id: 'fitted' };
      const told = checkOf([fitted, right], ['fitted']);
      expect(told.state).toBe('not shown');
      expect(told.sentence).toMatch(/between them nothing is proven/);
      expect(told.by).toBe('check point');
      const other = { ...point('fit', 0, 700), id: 'fitted' };
      expect(checkOf([other, right], ['fitted']).state).toBe('pass');
    });
  });

  it('names the worst end of the range in the budget', () => {
    const proof = prove({ line, brief, calibration: null, points: [], achievedHz: 10 });
    const budget = proof.budget as ReadingBudget;
    expect(budget.at).toBeCloseTo(110, 6);
    expect(budget.result.expanded).toBeGreaterThan(1);
    expect(budget.result.shares.reduce((a, b) => a + b)).toBeCloseTo(1, 9);
  });

  it('passes no budget of what nobody has stated or measured, however small the rest is', () => {
    const stated = thermistorLine('p');
    const silent = compileLine(
      { ...stated, stages: stated.stages.map((s) => ({ ...s, uncertainty: {} })) },
      { sampleRateHz: 10 },
    );
    const wide = { ...brief, tolerance: 50 };
    const budgetOf = (input: Partial<ProofInput>) => {
      const given = { line: silent, brief: wide, calibration: null, points: [], achievedHz: 10, ...input };
      return prove(given).claims.find((c) => c.id === 'budget')!;
    };
    expect(budgetOf({})).toMatchObject({
      state: 'not shown',
      sentence: expect.stringMatching(
        /^Unknown: uncalibrated constants and reading noise\. Known contributions: ±/,
      ),
    });
    // Where what is known is too much already, finding out the rest does not help.
    expect(budgetOf({ line, brief }).next).toMatch(/^Calibrate against references/);
    // Stated constants and a measured noise leave nothing unknown.
    expect(budgetOf({ points: [point('fit', 60, 439.6)] }).state).toBe('not shown');
    expect(budgetOf({ line, points: [point('fit', 60, 439.6)] }).state).toBe('pass');
  });

  it('rounds to codes only what a converter gave', () => {
    const digital = compileLine(
      {
        sources: [{ column: 'speed', unit: 'mps' }],
        stages: [
          { id: 'k', kind: 'change-unit', params: { from: 'mps', to: 'kmh' }, uncertainty: {}, off: false },
          {
            id: 't',
            kind: 'gain-offset',
            params: { gain: 1, offset: 0 },
            uncertainty: { offset: 0.05 },
            off: false,
          },
        ],
      },
      { sampleRateHz: 5 },
    );
    const punt: ChannelBrief = {
      ...brief,
      unit: 'kmh',
      low: 0,
      high: 20,
      tolerance: 0.3,
      fastest: { kind: 'crossing', timingS: 0.1 },
    };
    const proof = prove({
      line: digital,
      brief: punt,
      calibration: null,
      points: [
        {
          ...point('fit', 10, 2.78),
          worth: { title: 't', value: 10, unit: 'kmh', uncertainty: 0.05, workings: [] },
          capture: { mean: 2.78, sd: 0.01, n: 50, nEffective: 50, durationS: 10 },
        },
      ],
      achievedHz: 5,
    });
    const budget = proof.budget as ReadingBudget;
    expect(budget.lines.map((l) => l.title)).not.toContain('Quantization');
    expect(proof.claims.find((c) => c.id === 'budget')!.state).toBe('pass');
  });

  it('works a budget out at rows that were seen, where the line cannot be walked back', () => {
    const vector: LineSpec = {
      sources: ['x', 'y', 'z'].map((column) => ({ column, unit: 'gn' as const })),
      stages: [
        { id: 'm', kind: 'magnitude', params: {}, uncertainty: {}, off: false },
        {
          id: 't',
          kind: 'gain-offset',
          params: { gain: 1, offset: 0 },
          uncertainty: { gain: 0.02 },
          off: false,
        },
      ],
    };
    const ride: ChannelBrief = { ...brief, unit: 'gn', low: 0, high: 4, tolerance: 0.2 };
    const given = {
      line: compileLine(vector, { sampleRateHz: 50 }),
      brief: ride,
      calibration: null,
      points: [],
      achievedHz: 50,
    };
    const blind = prove(given);
    expect(blind.budget).toMatch(/no raw data has been received yet/);
    expect(blind.claims).toHaveLength(5);
    expect(blind.claims.find((c) => c.id === 'budget')!.state).toBe('not shown');
    const budget = prove({
      ...given,
      seen: [
        [0, 0, 1],
        [0, 3, 4],
      ],
    }).budget as ReadingBudget;
    expect(budget.at).toBeCloseTo(5, 9);
    expect(budget.result.contributions[0]).toBeCloseTo(0.02 * 5, 6);
    expect(budget.result.unknown).toEqual(['Reading noise']);
  });

  it('goes on with the other claims where a stage has no readings at rest', () => {
    const beats: LineSpec = {
      sources: [{ column: 'a', unit: 'gn' }],
      stages: [
        {
          id: 'b',
          kind: 'beat-rate',
          params: { over: 4, shortestS: 0.3, memoryS: 4, minHeight: 0.1, to: 'perMin' },
          uncertainty: {},
          off: false,
        },
      ],
    };
    const strokes: ChannelBrief = {
      ...brief,
      unit: 'perMin',
      low: 0,
      high: 150,
      tolerance: 1,
      fastest: { kind: 'tone', frequencyHz: 2.5 },
    };
    const proof = prove({
      line: compileLine(beats, { sampleRateHz: 50 }),
      brief: strokes,
      calibration: null,
      points: [],
      achievedHz: 50,
      seen: [[1]],
    });
    expect(proof.budget).toMatch(/works over time/);
    // With a reading of the live bench there is a budget at that reading, with what the bench knows of it.
    const atReading = (now: { reading: number; u: number }) =>
      prove({
        line: compileLine(beats, { sampleRateHz: 50 }),
        brief: strokes,
        calibration: null,
        points: [],
        achievedHz: 50,
        sensor: { ...perfect, unit: 'perMin', accuracyFixed: 0.2 },
        now,
      });
    const live = atReading({ reading: 96, u: 0.1 }).budget as ReadingBudget;
    expect(live.at).toBe(96);
    expect(live.lines.map((l) => [l.title, l.halfWidth])).toEqual([
      ['Uncalibrated constants and noise', 0.1],
      ['Sensor accuracy (datasheet)', 0.2],
    ]);
    const budgetAt = (now: { reading: number; u: number }) =>
      atReading(now).claims.find((c) => c.id === 'budget')!;
    expect(budgetAt({ reading: 96, u: 0.1 }).state).toBe('pass');
    // At a standstill all that grows with the reading is nothing: that shows nothing of the range.
    expect(budgetAt({ reading: 0, u: 0 })).toMatchObject({
      state: 'not shown',
      sentence: expect.stringMatching(/unknown for the upper half of the range, up to 150 \/min/) as string,
    });
    const band = {
      ...beats,
      stages: [
        {
          id: 'h',
          kind: 'butterworth-bandpass',
          params: { order: 2, lowHz: 0.5, highHz: 5 },
          uncertainty: {},
          off: false,
        },
      ],
    };
    const swings = prove({
      line: compileLine(band, { sampleRateHz: 50 }),
      brief: { ...brief, unit: 'gn', low: 0, high: 2, tolerance: 0.1 },
      calibration: null,
      points: [],
      achievedHz: 50,
      seen: [[1]],
    });
    expect(swings.budget).toMatch(/removes constant values/);
    expect(proof.claims.find((c) => c.id === 'rate')!.state).toBe('pass');
  });
});

describe('a budget with what the shelf says of the sensor', () => {
  const line = compileLine(
    {
      sources: [{ column: 'f', unit: 'count' }],
      stages: [
        {
          id: 'k',
          kind: 'linear',
          params: { slope: 0.01, intercept: 0, to: 'N' },
          uncertainty: {},
          off: false,
        },
      ],
    },
    { sampleRateHz: 2000 },
  );
  const blow: ChannelBrief = {
    ...kilnBrief,
    unit: 'N',
    low: 0,
    high: 1600,
    tolerance: 50,
    fastest: { kind: 'pulse', widthS: 0.012 },
  };
  const cell: SensorOwn = {
    title: 'Load cell',
    unit: 'N',
    signal: 'codes',
    accuracyFixed: 10,
    accuracyShare: 0.026,
    afterTrueUp: 4,
    responseS: 0.0002,
    noise: 1,
  };
  const budgetOf = (change: Partial<ProofInput> = {}) => {
    const proof = prove({
      line,
      brief: blow,
      calibration: null,
      points: [],
      achievedHz: 2000,
      sensor: cell,
      ...change,
    });
    return {
      budget: proof.budget as ReadingBudget,
      claim: proof.claims.find((c) => c.id === 'budget')!,
      size: (title: string) =>
        (proof.budget as ReadingBudget).lines.find((l) => l.title === title)?.halfWidth ?? null,
    };
  };

  it('holds all of it as bought, at the worst end, with its source', () => {
    const { budget, claim, size } = budgetOf();
    expect(size('Sensor accuracy (datasheet)')).toBeCloseTo(Math.hypot(10, 0.026 * 1600), 9);
    expect(budget.lines.find((l) => l.title === 'Sensor accuracy (datasheet)')!.source).toContain(
      'Load cell, shelf data',
    );
    expect(budget.result.expanded).toBeGreaterThan(43);
    expect(claim.state).toBe('pass');
    expect(budgetOf({ brief: { ...blow, tolerance: 40 } }).claim.state).toBe('not shown');
    expect(budgetOf({ brief: { ...blow, tolerance: 200 } }).claim.state).toBe('pass');
  });

  it('holds the hysteresis that points show which were come to from both sides, and no scatter', () => {
    const [up, down] = (['from below', 'from above'] as const).map((approach, k) => ({
      id: approach,
      channelId: 'p1',
      role: 'fit' as const,
      reference: { kind: 'instrument' as const, reading: 800, uncertainty: 0.5 },
      excluded: null,
      keptAt: '2026-01-01T00:00:00Z',
      capture: { mean: 80000 + 600 * k, sd: 10, n: 100, nEffective: 100, durationS: 5, approach },
      worth: { title: '', value: 800, unit: 'N' as const, uncertainty: 0.5, workings: [] },
    }));
    // From above it reads 6 N more.
    expect(budgetOf({ points: [up!, down!] }).size('Measured hysteresis')).toBeCloseTo(3, 6);
    expect(budgetOf({ points: [up!] }).size('Measured hysteresis')).toBeNull();
    const noisy = [up!, down!].map((p) => ({ ...p, capture: { ...p.capture, sd: 10000 } }));
    expect(budgetOf({ points: noisy }).size('Measured hysteresis')).toBeNull();
  });

  it('moves with temperature after a true-up, where the shelf says by how much', () => {
    const title = 'Temperature change since calibration';
    const calibration = madeOf({ validRaw: [0, 160000], validReading: [0, 1600] });
    const of = (sensor: SensorOwn) => budgetOf({ calibration, sensor }).size(title);
    expect(of({ ...cell, temperatureShare: 2e-4 })).toBeCloseTo(10 * 2e-4 * 1600, 6);
    expect(of(cell)).toBeNull();
    // As bought its accuracy holds it already.
    expect(budgetOf({ sensor: { ...cell, temperatureShare: 2e-4 } }).size(title)).toBeNull();
  });

  it('is not known where nobody says what turns its volts into codes', () =>
    expect(budgetOf({ sensor: { ...cell, signal: 'bridge' } }).budget.result.unknown).toEqual([
      'Uncalibrated constants',
    ]));

  it('is not known without a sensor, and sends to Pick', () => {
    const { claim, budget } = budgetOf({ sensor: null, brief: { ...blow, tolerance: 1000 } });
    expect(claim).toMatchObject({ state: 'not shown', by: 'pick' });
    expect(budget.result.unknown).toEqual(['Uncalibrated constants', 'Reading noise', 'Peak loss']);
  });

  it('loses of a peak what sensor, sampling and filters take, at the size of the peak', () => {
    const kept = keptOfEvent(line, blow.fastest, cell.responseS, 2000)!;
    expect(kept.filters).toBe(1);
    expect(kept.sampling).toBeCloseTo(worstPeakFraction(0.012, 2000), 12);
    expect(budgetOf().size('Peak loss')).toBeCloseTo(1600 * (1 - kept.all), 6);
    // A quarter of the readings: sixteen times the loss, since it grows with the square of their distance.
    const slow = keptOfEvent(line, blow.fastest, 0, 500)!;
    expect((1 - slow.sampling) / (1 - kept.sampling)).toBeCloseTo(16, 0);
    const smoothed = compileLine(
      {
        ...line.spec,
        stages: [
          ...line.spec.stages,
          { id: 's', kind: 'moving-mean', params: { width: 200 }, uncertainty: {}, off: false },
        ],
      },
      { sampleRateHz: 2000 },
    );
    // A mean over 0.1 s of a half sine of 0.012 s: 2 / pi of 12 parts in 100.
    expect(keptOfEvent(smoothed, blow.fastest, 0, 2000)!.filters).toBeCloseTo((2 / Math.PI) * 0.12, 2);
    expect(budgetOf({ line: smoothed, brief: { ...blow, tolerance: 200 } }).claim.state).not.toBe('pass');
  });

  it('has the sensor trail a ramp beside the filters', () => {
    const kiln = compileLine(thermistorLine('p'), { sampleRateHz: 10 });
    const given = { line: kiln, brief: kilnBrief, calibration: null, points: [], achievedHz: 10 };
    const lag = (responseS: number) =>
      (prove({ ...given, sensor: { ...perfect, responseS } }).budget as ReadingBudget).lines.find(
        (l) => l.title === 'Lag behind the fastest change',
      )!;
    const { fastest } = kilnBrief;
    if (fastest.kind !== 'ramp') throw new Error('The kiln warms up along a ramp.');
    expect(lag(15).halfWidth - lag(0).halfWidth).toBeCloseTo(15 * fastest.ratePerS, 9);
    expect(lag(15).source).toContain('15 s from Perfect probe (shelf data)');
  });

  it('keeps after a true-up what the kind drifts by, and beyond the points all of it as bought', () => {
    const calibration = madeOf({ validRaw: [0, 19600], validReading: [0, 196] });
    const { size } = budgetOf({ calibration });
    expect(size('Nonlinearity, drift and hysteresis after calibration')).toBe(4);
    expect(size('Outside the calibrated range')).toBeCloseTo(Math.hypot(10, 0.026 * 1600), 9);
    const wide = {
      ...calibration,
      result: { ...calibration.result, validRaw: [0, 170_000] as [number, number] },
    };
    expect(budgetOf({ calibration: wide }).size('Outside the calibrated range')).toBeNull();
    expect(budgetOf({ calibration: wide, sensor: null }).budget.result.unknown).toContain(
      'Nonlinearity, drift and hysteresis after calibration',
    );
  });
});

describe('pooledNoise', () => {
  it('weighs captures by their degrees of freedom', () => {
    const capture = (sd: number, n: number) =>
      ({ capture: { mean: 0, sd, n, nEffective: n, durationS: 1 } }) as CalibrationPoint;
    expect(pooledNoise([capture(1, 11), capture(2, 31)])).toBeCloseTo(Math.sqrt((10 + 30 * 4) / 40), 12);
    expect(pooledNoise([])).toBeNull();
  });
});
