import { describe, expect, it } from 'vitest';
import { seededRandom } from '../src/numerics/index.ts';
import {
  judgeStudy,
  STUDIES,
  studyKindOf,
  type StudyAbout,
  type StudySamples,
  type StudySettings,
  type StudyValues,
} from '../src/study/index.ts';

const about: StudyAbout = {
  name: 'Speed',
  unit: 'mps',
  tolerance: 0.5,
  range: [0, 10],
  isCount: false,
  brief: {
    id: 'a',
    quantity: 'Speed',
    unit: 'mps',
    low: 0,
    high: 10,
    tolerance: 0.5,
    fastest: { kind: 'pulse', widthS: 0.2 },
    measurand: 'speed',
    sensed: null,
    power: 'battery',
    enduranceH: null,
    surroundings: [],
    budget: null,
    readyMade: null,
    note: '',
  } as unknown as NonNullable<StudyAbout['brief']>,
};

const judge = (
  kind: string,
  settings: StudySettings,
  rows: readonly StudyValues[],
  of: StudyAbout = about,
  samples: readonly StudySamples[] = [],
) =>
  judgeStudy(
    studyKindOf(kind)!,
    settings,
    { rows: rows.map((values, i) => ({ values, keptS: 1000 * i })), samples },
    of,
  );

const stretch = (values: ArrayLike<number>, rateHz = 100, held: Float64Array | null = null): StudySamples => {
  const times = Float64Array.from({ length: values.length }, (_, i) => 5 + i / rateHz);
  return { name: 'run 1', rateHz, times, values: Float64Array.from(values), held, stamps: times };
};

describe('every kind of study', () => {
  it.each(STUDIES.map((k) => [k.kind, k] as const))(
    '%s shows nothing without evidence, and says what it needs',
    (_, kind) => {
      const result = judgeStudy(kind, kind.begin(about), { rows: [], samples: [] }, about);
      expect(result.state).toBe('not shown');
      expect(result.sentence).not.toBe('');
      expect(result.next).not.toBe('');
    },
  );

  it('names a setting that cannot be', () => {
    expect(judge('counting', { allowedPercent: -1 }, [])).toMatchObject({
      state: 'not shown',
      sentence: expect.stringContaining('received -1') as string,
    });
  });
});

describe('agreement', () => {
  const pairs = (n: number, bias: number, sd: number, seed = 1) => {
    const random = seededRandom(seed);
    return Array.from({ length: n }, (_, i) => ({
      reference: 0.5 + (9 * i) / n,
      shown: 0.5 + (9 * i) / n + bias + sd * random.normal(),
    }));
  };

  it('passes what lies close, with what the other is good to', () =>
    expect(judge('agreement', { otherU: 0.1 }, pairs(40, 0.05, 0.05)).state).toBe('pass'));

  it('shows nothing while nobody says what the other is good to', () => {
    const result = judge('agreement', {}, pairs(40, 0.05, 0.05));
    expect(result.state).toBe('not shown');
    expect(result.next).toContain('Enter the uncertainty');
  });

  it('shows nothing by an instrument as coarse as the tolerance, and asks for a better one', () => {
    const result = judge('agreement', { otherU: 0.6 }, pairs(200, 0.05, 0.05));
    expect(result.state).toBe('not shown');
    expect(result.next).toContain('better comparison instrument');
  });

  it('fails what is off, and tells bias from scatter', () => {
    expect(judge('agreement', { otherU: 0.1 }, pairs(40, 1.5, 0.05))).toMatchObject({
      state: 'fail',
      next: expect.stringContaining('Calibrate: most of the difference') as string,
    });
    expect(judge('agreement', { otherU: 0.1 }, pairs(40, 0, 1))).toMatchObject({
      state: 'fail',
      next: expect.stringContaining('scatter') as string,
    });
  });

  it('passes fewer than one in twenty of many gadgets that are exactly too bad', () => {
    let passed = 0;
    // 1.96 sd = tolerance: just outside.
    for (let seed = 1; seed <= 300; seed++)
      if (judge('agreement', { otherU: 0 }, pairs(15, 0, 0.5 / 1.96, seed)).state === 'pass') passed++;
    expect(passed / 300).toBeLessThan(0.05);
  });
});

describe('accuracy over the range', () => {
  const rows = (error: (at: number, way: string) => number, at = [0, 5, 10]) =>
    at.flatMap((reference) =>
      ['up', 'down', 'up', 'down'].map((approach, i) => ({
        reference,
        approach,
        shown: reference + error(reference, approach) + 0.01 * (i % 3),
      })),
    );

  it('takes it apart', () => {
    const result = judge(
      'accuracy',
      { referenceU: 0.05 },
      rows((_, way) => (way === 'down' ? 0.1 : 0)),
    );
    expect(result.state).toBe('pass');
    expect(result.facts.find((f) => f.title === 'Hysteresis')!.text).toMatch(/^0\.(09|1)/);
  });

  it('fails where one place lies outside, however good the mean is', () =>
    expect(
      judge(
        'accuracy',
        { referenceU: 0.05 },
        rows((at) => (at === 5 ? 0 : at === 0 ? 1 : -1)),
      ).state,
    ).toBe('fail'));

  it('shows nothing in the middle alone, with a coarse reference or with one nobody knows', () => {
    expect(
      judge(
        'accuracy',
        { referenceU: 0.05 },
        rows(() => 0, [4, 5, 6]),
      ),
    ).toMatchObject({
      state: 'not shown',
      next: expect.stringContaining('nearer to the ends') as string,
    });
    expect(
      judge(
        'accuracy',
        { referenceU: 0.9 },
        rows(() => 0),
      ).state,
    ).toBe('not shown');
    expect(
      judge(
        'accuracy',
        {},
        rows(() => 0),
      ).state,
    ).toBe('not shown');
  });
});

describe('drift', () => {
  const rows = (perDay: number, days: readonly number[]) =>
    days.map((d, i) => ({
      day: `2026-03-${String(1 + d).padStart(2, '0')}`,
      reference: 5,
      shown: 5 + perDay * d + 0.01 * (i % 2),
    }));

  it.each([
    [0.001, [0, 5, 10, 15, 20, 25], 'pass'],
    [0.05, [0, 5, 10, 15, 20, 25], 'fail'],
    [0.001, [0, 1, 2, 3], 'not shown'],
    [0.001, [0, 25], 'not shown'],
  ] as const)('of %d a day seen on days %j is %s', (perDay, days, state) =>
    expect(judge('drift', { holdDays: 60, referenceU: 0.02 }, rows(perDay, days)).state).toBe(state),
  );

  it('counts that the reference may have moved', () =>
    expect(judge('drift', { holdDays: 60, referenceU: 0.5 }, rows(0.001, [0, 5, 10, 15, 20, 25])).state).toBe(
      'not shown',
    ));

  it('says that a day is lacking', () =>
    expect(judge('drift', { holdDays: 60 }, [{ reference: 1, shown: 1, day: '' }]).sentence).toContain(
      'no valid date',
    ));
});

describe('counting', () => {
  const trials = (counts: readonly number[]) => counts.map((counted) => ({ truth: 100, counted }));

  it.each([
    [[120, 80, 100], 'fail'],
    [[100, 101, 99, 100], 'pass'],
    [[100, 100], 'not shown'],
    [[90, 91, 89], 'fail'],
  ] as const)('%j for a hundred each is %s', (counts, state) =>
    expect(judge('counting', { allowedPercent: 5 }, trials(counts)).state).toBe(state),
  );

  it('says which way to mend it', () => {
    expect(judge('counting', { allowedPercent: 5 }, trials([90, 91, 89])).next).toContain('more sensitive');
    expect(judge('counting', { allowedPercent: 5 }, trials([120, 119, 121])).next).toContain(
      'less sensitive',
    );
  });
});

describe('false triggers', () => {
  const row = (way: string, minutes: number, counted: number) => ({ way, minutes, counted });
  it.each([
    [[row('nothing happens', 40, 0)], 'not shown'],
    [[row('nothing happens', 40, 0), row('being handled', 2, 0)], 'not shown'],
    [[row('nothing happens', 40, 0), row('being handled', 40, 0)], 'pass'],
    [[row('nothing happens', 40, 0), row('being handled', 40, 30)], 'fail'],
  ] as const)('%j is %s', (rows, state) =>
    expect(judge('false-triggers', { allowedPerHour: 6 }, rows).state).toBe(state),
  );

  it('says how long a test without one would have to be: 3 over the rate', () =>
    expect(judge('false-triggers', { allowedPerHour: 6 }, [row('nothing happens', 2, 0)]).next).toContain(
      '30 min',
    ));
});

describe('before and after', () => {
  const rows = (before: readonly number[], after: readonly number[]) => [
    ...before.map((shown) => ({ side: 'before', shown })),
    ...after.map((shown) => ({ side: 'after', shown })),
  ];

  it('shows a change, and tells scatter from one', () => {
    expect(judge('before-after', {}, rows([9.1, 9.4, 9.3, 9.2], [8.1, 8.3, 8.2, 8.05]))).toMatchObject({
      state: 'pass',
      sentence: expect.stringMatching(/changed by −1\.\d+ ±0\.\d+ m\/s/) as string,
    });
    const scatter = judge(
      'before-after',
      { hopedFor: 0.3 },
      rows([9.1, 9.6, 9.3, 8.9], [9.0, 9.5, 9.2, 8.85]),
    );
    expect(scatter.state).toBe('not shown');
    expect(scatter.next).toMatch(/About \d+ more runs of each would prove a change of 0\.30 m\/s/);
  });

  it('fails where what was hoped for is ruled out', () =>
    expect(
      judge('before-after', { hopedFor: 5 }, rows([9.1, 9.6, 9.3, 8.9], [9.0, 9.5, 9.2, 8.85])).state,
    ).toBe('fail'));

  it('refuses too few, and whole steps', () => {
    expect(judge('before-after', {}, rows([20, 20], [21, 21])).state).toBe('not shown');
    expect(judge('before-after', {}, rows([20, 20, 20], [21, 21, 21]))).toMatchObject({
      state: 'not shown',
      sentence: expect.stringContaining('display resolution') as string,
    });
  });
});

describe('same for everyone', () => {
  const rows = (by: (person: string) => number, sd: number, people = ['Ada', 'Bo', 'Cy', 'Di', 'Eli']) => {
    const random = seededRandom(3);
    return people.flatMap((person) =>
      ['x', 'y'].flatMap((item) =>
        [0, 1, 2].map(() => ({
          by: person,
          item,
          shown: (item === 'x' ? 3 : 6) + by(person) + sd * random.normal(),
        })),
      ),
    );
  };

  it('passes where nobody matters, fails where somebody does', () => {
    expect(
      judge(
        'repeat',
        {},
        rows(() => 0, 0.05),
      ).state,
    ).toBe('pass');
    const moved = judge(
      'repeat',
      {},
      rows((p) => (p === 'Bo' ? 3 : p === 'Di' ? -2 : 0), 0.05),
    );
    expect(moved.state).toBe('fail');
    expect(moved.next).toContain('mounted in only one way');
  });

  it('says who has to read what again', () => {
    const some = rows(() => 0, 0.05, ['Ada', 'Bo']).slice(0, -1);
    expect(judge('repeat', {}, some)).toMatchObject({
      state: 'not shown',
      next: 'Next: Bo measures y again.',
    });
  });
});

describe('a unit of the house', () => {
  const rows = (sd: number) => {
    const random = seededRandom(4);
    return ['rye', 'oak', 'elm'].flatMap((item, i) =>
      Array.from({ length: 6 }, () => ({ item, shown: [7, 3, 3.0001][i]! + sd * random.normal() })),
    );
  };

  it('ranks what it can tell apart and claims nothing of what is true', () => {
    const result = judge('house-unit', { tellApart: 0.5 }, rows(0.05));
    expect(result.state).toBe('pass');
    expect(result.sentence).toMatch(/rye > (oak ≈ elm|elm ≈ oak)/);
    expect(result.sentence).toContain('No claim is made');
  });

  it('fails where repeats scatter by more than it shall tell apart', () =>
    expect(judge('house-unit', { tellApart: 0.01 }, rows(0.05)).state).toBe('fail'));
});

describe('noise', () => {
  it('finds the best mean: where slow drift takes over from white noise', () => {
    const random = seededRandom(9);
    let walk = 0;
    // White sd 0.05; a walk of 0.0005 a reading: sd of means equal near 100 readings, 1 s.
    const values = Array.from(
      { length: 40_000 },
      () => (walk += 0.0005 * random.normal()) + 0.05 * random.normal(),
    );
    const result = judge('noise', {}, [], about, [stretch(values)]);
    const [, tau] = /^([\d.]+) s:/.exec(result.facts.find((f) => f.title === 'Best averaging time')!.text)!;
    expect(Number(tau)).toBeGreaterThan(0.5);
    expect(Number(tau)).toBeLessThan(4);
    expect(result.state).toBe('pass');
    expect(result.plots.map((p) => p.x.scale)).toContain('logarithmic');
  });

  it('names the mean that would do', () => {
    const random = seededRandom(10);
    const result = judge('noise', {}, [], about, [
      stretch(Array.from({ length: 9000 }, () => 0.6 * random.normal())),
    ]);
    expect(result.state).toBe('fail');
    expect(result.next).toMatch(/mean over 0\.\d+ s/);
  });

  it('is not told of a stretch that went somewhere', () => {
    const random = seededRandom(12);
    const warming = Array.from({ length: 2000 }, (_, i) => i / 200 + 0.001 * random.normal());
    expect(judge('noise', {}, [], about, [stretch(warming)])).toMatchObject({
      state: 'not shown',
      sentence: expect.stringContaining('Not at rest') as string,
    });
  });

  it('names no mean that is shorter than what swings', () => {
    const random = seededRandom(11);
    // A swing of 0.2 s: readings differ little from one to the next, and any mean shorter than it swings along.
    const swing = Array.from(
      { length: 9000 },
      (_, i) => 0.3 * Math.sin((2 * Math.PI * i) / 100) + 0.005 * random.normal(),
    );
    const result = judge('noise', {}, [], about, [stretch(swing, 500)]);
    const [, tau] = /mean over ([\d.]+) s/.exec(result.next)!;
    expect(result.state).toBe('fail');
    expect(Number(tau)).toBeGreaterThan(0.1);
  });

  it('is told of readings that a slow filter holds alike', () => {
    const random = seededRandom(13);
    let held = 0;
    const smoothed = Array.from({ length: 20_000 }, () => (held += (random.normal() - held) / 100));
    expect(judge('noise', {}, [], about, [stretch(smoothed)]).state).toBe('pass');
  });

  it('takes the longest stretch without a gap, and says that one code hides the noise', () => {
    const values = Array.from({ length: 1000 }, (_, i) => (i === 300 ? Number.NaN : 4));
    const result = judge('noise', {}, [], about, [stretch(values)]);
    expect(result.facts.find((f) => f.title === 'Based on')!.text).toContain('699 readings');
    expect(result.facts.find((f) => f.title.includes('range'))!.text).toContain('below one step');
  });
});

describe('at rest', () => {
  const quiet = (offset: number, sd: number) => {
    const random = seededRandom(11);
    return [stretch(Array.from({ length: 3000 }, () => offset + sd * random.normal()))];
  };

  it('tells below what a reading is noise', () => {
    const result = judge('at-rest', { truth: 0 }, [], { ...about, unit: 'A' }, quiet(0, 0.002));
    expect(result.state).toBe('pass');
    expect(result.sentence).toMatch(/within ±0\.00(38|39|40|41) A of 0 A are noise/);
  });

  it('is not told of a stretch that went somewhere', () =>
    expect(
      judge('at-rest', { truth: 0 }, [], about, [stretch(Array.from({ length: 900 }, (_, i) => i / 1000))]),
    ).toMatchObject({ state: 'not shown', sentence: expect.stringContaining('Not at rest') as string }));

  it('says of readings that are all the same no more than that', () => {
    const same = (v: number) =>
      judge('at-rest', { truth: 0 }, [], about, [stretch(Array<number>(400).fill(v))]);
    expect(same(0)).toMatchObject({
      state: 'pass',
      sentence: expect.stringContaining('below the smallest step') as string,
    });
    expect(JSON.stringify(same(0))).not.toMatch(/±0 |not known/);
    expect(same(5).state).toBe('fail');
  });

  it('fails an offset, and shows nothing where single readings go beyond', () => {
    expect(judge('at-rest', { truth: 0 }, [], about, quiet(0.9, 0.01)).state).toBe('fail');
    expect(judge('at-rest', { truth: 0 }, [], about, quiet(0, 0.6)).state).toBe('not shown');
  });
});

describe('sampling as it really is', () => {
  const stamped = (stamps: readonly number[]) => [
    { ...stretch(stamps), stamps: Float64Array.from(stamps), rateHz: 100 },
  ];
  const even = (rateHz: number, n = 2000) => Array.from({ length: n }, (_, i) => i / rateHz);

  // A pulse of 0.2 s with 5 % of its peak to lose: pi / (2 0.2 acos 0.95) = 24.7 a second.
  it.each([
    [30, 'pass'],
    [20, 'fail'],
  ] as const)('%i a second is %s', (rateHz, state) =>
    expect(judge('sampling', { interferersHz: [] }, [], about, stamped(even(rateHz))).state).toBe(state),
  );

  it('shows nothing where a pause would swallow the event, and fails stamps that go backwards', () => {
    const stamps = even(100);
    const paused = judge(
      'sampling',
      { interferersHz: [] },
      [],
      about,
      stamped(stamps.map((t) => (t > 5 ? t + 0.4 : t))),
    );
    expect(paused).toMatchObject({
      state: 'not shown',
      sentence: expect.stringContaining('1 gap') as string,
    });
    const back = judge(
      'sampling',
      { interferersHz: [] },
      [],
      about,
      stamped(stamps.map((t) => (t > 5 ? t - 1 : t))),
    );
    expect(back).toMatchObject({ state: 'fail', sentence: expect.stringContaining('backwards') as string });
  });

  it('names what folds down onto the event', () => {
    const result = judge('sampling', { interferersHz: [50] }, [], about, stamped(even(49)));
    expect(result).toMatchObject({ state: 'not shown', sentence: expect.stringContaining('50') as string });
    expect(result.facts.find((f) => f.title.startsWith('50'))!.text).toContain('aliased to 1');
  });

  // A ramp of 0.2 a second with ±1 asks for 1 a second, and is made of 0.5 Hz and less.
  it.each([
    [10, 'not shown', 'aliased to below 0.001 Hz, within the band of the fastest change'],
    [9.95, 'not shown', 'aliased to 0.25 Hz, within the band of the fastest change'],
    [20, 'pass', 'aliased to 10 Hz'],
    [120, 'pass', 'not aliased'],
  ] as const)('of a slow ramp at %s a second, hum is %s', (rateHz, state, text) => {
    const slow = {
      ...about,
      brief: { ...about.brief!, tolerance: 1, fastest: { kind: 'ramp', ratePerS: 0.2 } },
    };
    const result = judge('sampling', { interferersHz: [50] }, [], slow as StudyAbout, stamped(even(rateHz)));
    expect(result.state).toBe(state);
    expect(result.facts.find((f) => f.title === '50.0 Hz')!.text).toBe(text);
  });
});

describe('one thing taken as constant', () => {
  const run = (moves: number) => {
    const values = Float64Array.from({ length: 500 }, (_, i) => 5 + Math.sin(i / 20));
    const held = values.map((v, i) => v + moves * Math.sin(i / 50));
    return [stretch(values, 10, held)];
  };

  it.each([
    [0.2, 'pass'],
    [2, 'fail'],
  ] as const)('that costs up to %d is %s', (moves, state) =>
    expect(judge('constant-assumed', { column: 'volts' }, [], about, run(moves)).state).toBe(state),
  );

  it('shows nothing where no moment has both readings', () =>
    expect(
      judge('constant-assumed', { column: 'volts' }, [], about, [
        stretch([1, 2, 3], 10, Float64Array.of(Number.NaN, Number.NaN, Number.NaN)),
      ]).state,
    ).toBe('not shown'));
});

describe('a column taken as constant', () => {
  const held = (missing: number) => {
    const values = Array.from({ length: 100 }, (_, i) => 10 + 0.01 * i);
    return judge('constant-assumed', { column: 'v' }, [], about, [
      stretch(
        values,
        100,
        Float64Array.from(values, (v, i) => (i < missing ? Number.NaN : v + 0.1)),
      ),
    ]);
  };

  it('costs what the readings differ by', () => {
    expect(held(0)).toMatchObject({ state: 'pass', sentence: expect.stringContaining('0.10') as string });
    expect(held(5).state).toBe('pass');
  });

  it('is not judged by the few moments at which it reads both ways', () =>
    expect(held(96)).toMatchObject({
      state: 'not shown',
      sentence: expect.stringContaining('only 4 of 100 readings') as string,
    }));
});

describe('an alarm that was tried', () => {
  const asked = { caughtPercent: 80, allowedPerHour: 1 };
  const run = (was: number, caught: number, nothing: number, minutes: number, level = 'above 25 ppm') => ({
    alarm: 'Ammonia high',
    level,
    was,
    caught,
    nothing,
    minutes,
    ...(caught > 0 ? { late: 4 } : {}),
  });

  it.each([
    ['all of many, and never for nothing', [run(8, 8, 0, 120), run(8, 8, 0, 120)], 'pass'],
    ['all of few', [run(3, 3, 0, 240)], 'not shown'],
    ['too few of many', [run(20, 8, 0, 240)], 'fail'],
    ['often for nothing', [run(16, 16, 9, 120)], 'fail'],
    ['no time without events', [run(16, 16, 0, 0)], 'not shown'],
    ['nothing to catch', [run(0, 0, 0, 600)], 'not shown'],
    ['once for nothing in a long time', [run(16, 16, 1, 60 * 24)], 'pass'],
  ] as const)('%s', (_what, rows, state) => {
    const result = judge('alarm-tried', asked, rows);
    expect(result.state).toBe(state);
    if (state !== 'pass') expect(result.next).not.toBe('');
  });

  it('says how many would show it', () => {
    expect(judge('alarm-tried', asked, [run(3, 3, 0, 240)]).next).toContain('14 markers in total');
    expect(judge('alarm-tried', asked, [run(14, 14, 0, 240)]).state).toBe('pass');
    expect(judge('alarm-tried', asked, [run(13, 13, 0, 240)]).state).toBe('not shown');
  });

  it('tells many minutes whole, and few to a tenth', () => {
    const [long, short] = [7 * 60, 2.5].map((minutes) =>
      judge('alarm-tried', asked, [run(16, 16, 0, minutes)]),
    );
    expect(long!.sentence).toContain('in 420 min');
    expect(short!.sentence).toContain('in 2.5 min');
  });

  it('what was tried at another level says nothing of this one', () => {
    const rows = [run(16, 16, 0, 240, 'above 20 ppm'), run(2, 2, 0, 240)];
    const result = judge('alarm-tried', asked, rows);
    expect(result.state).toBe('not shown');
    expect(result.facts.find((f) => f.title === 'Runs')!.text).toBe('1 run, plus 1 with earlier settings');
  });
});
