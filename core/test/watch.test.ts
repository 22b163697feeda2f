import { describe, expect, it } from 'vitest';
import {
  createWatches,
  detectorKind,
  DETECTORS,
  WatchError,
  type Trace,
  type WatchContext,
  type WatchedEvent,
  type Watches,
} from '../src/detect/index.ts';
import {
  budgetWith,
  createFigures,
  FigureError,
  FIGURES,
  figureKind,
  type Figures,
} from '../src/figures/index.ts';
import type { FigureSpec, WatchSpec } from '../src/model/watch.ts';
import { seededRandom } from '../src/numerics/index.ts';
import { electrocardiogram } from './support/electrocardiogram.ts';

const CONTEXT: WatchContext = { sampleRateHz: 100, lagS: 0 };

const spec = (kind: string, params: WatchSpec['params'] = {}, more: Partial<WatchSpec> = {}): WatchSpec => ({
  id: 'w',
  name: 'It',
  kind,
  column: null,
  params: { ...detectorKind(kind)!.defaults, ...params },
  deadTimeS: 0,
  after: null,
  leastS: 0,
  ...more,
});

/** A signal in which every kind of detector finds something: rests, bursts, a drop, a slow swing. */
function everything(): { times: Float64Array; values: Float64Array } {
  const random = seededRandom(12);
  const times = Float64Array.from({ length: 6000 }, (_, i) => i / 100);
  const values = times.map((t) => {
    const beat = t > 10 && t < 30 ? 2 * Math.max(0, Math.sin(2 * Math.PI * 1.3 * t)) ** 4 : 0;
    const plateau = t > 38 && t < 48 ? 3 : 0;
    const drop = t > 54 && t < 54.4 ? -0.9 : 0;
    return 1 + beat + plateau + drop + 0.02 * random.normal();
  });
  return { times, values };
}

const PARAMS: Readonly<Record<string, WatchSpec['params']>> = {
  beat: { minHeight: 1, refractoryS: 0.3, memoryS: 3 },
  bout: { minHeight: 1, refractoryS: 0.3, memoryS: 3, gapS: 3, least: 4 },
  peak: { height: 2, prominence: 1 },
  pulse: { level: 2, hysteresis: 0.3, shortestS: 0 },
  level: { level: 2, hysteresis: 0.3, direction: 'either', n: 2, m: 3 },
  beyond: { side: 'above', level: 2, hysteresis: 0.2, shortestS: 0.05 },
  motion: { startLevel: 2, stopLevel: 1.5, holdS: 1, drawnBack: true },
  steady: { windowS: 2, drift: 0.1, scatter: 0.1 },
  'free-fall': { level: 0.4, shortestS: 0.1 },
  sector: { fromDeg: 2, toDeg: 200, hysteresisDeg: 0.2, shortestS: 0 },
  signal: { level: 2, direction: 'either' },
};

describe.each(DETECTORS.map((k) => k.kind).filter((k) => k !== 'button'))('detector "%s"', (kind) => {
  const column = kind === 'signal' ? 'raw' : null;
  const { times, values } = everything();
  const run = (cut: (i: number) => boolean) => {
    const events: WatchedEvent[] = [];
    const make = () => createWatches([spec(kind, PARAMS[kind], { column })], CONTEXT, (e) => events.push(e));
    let watches: Watches = make();
    times.forEach((t, i) => {
      if (cut(i)) {
        const saved = JSON.parse(JSON.stringify(plain(watches.save()))) as object;
        watches = make();
        watches.restore(unplain(saved) as ReturnType<Watches['save']>);
      }
      if (column) watches.raw(column, t, values[i]!);
      else watches.reading(t, values[i]!);
    });
    return events;
  };

  it('finds the same however it is cut, saved and put back', () => {
    const whole = run(() => false);
    expect(whole.filter((e) => e.counted).length).toBeGreaterThan(0);
    const random = seededRandom(7);
    expect(run(() => random.uniform() < 0.02)).toEqual(whole);
  });

  it('has a title, a summary and defaults that its own schema takes', () => {
    const found = detectorKind(kind)!;
    expect(found.title.length).toBeGreaterThan(3);
    expect(() => createWatches([spec(kind, {}, { column })], CONTEXT, () => undefined)).not.toThrow();
    for (const level of found.levels) expect(Object.keys(found.params.properties)).toContain(level);
  });
});

/** JSON has no word for NaN and infinities, which memories hold. */
const plain = (v: unknown): unknown =>
  typeof v === 'number' && !Number.isFinite(v)
    ? { number: String(v) }
    : Array.isArray(v)
      ? v.map(plain)
      : v && typeof v === 'object'
        ? Object.fromEntries(Object.entries(v).map(([k, x]) => [k, plain(x)]))
        : v;
const unplain = (v: unknown): unknown => {
  if (Array.isArray(v)) return v.map(unplain);
  if (!v || typeof v !== 'object') return v;
  const entries = Object.entries(v);
  if (entries.length === 1 && entries[0]![0] === 'number') return Number(entries[0]![1]);
  return Object.fromEntries(entries.map(([k, x]) => [k, unplain(x)]));
};

describe('gates', () => {
  const seen = (specs: WatchSpec[], rows: readonly (readonly [string, number])[]) => {
    const events: WatchedEvent[] = [];
    const watches = createWatches(specs, CONTEXT, (e) => events.push(e));
    for (const [id, t] of rows) watches.press(id, t);
    return events.map((e) => [e.watchId, e.timeS, e.counted, e.why]);
  };
  const button = (id: string, more: Partial<WatchSpec> = {}) => spec('button', {}, { id, name: id, ...more });

  it('keep a dead time after what counted, and say by how much an event came too early', () => {
    expect(
      seen(
        [button('a', { deadTimeS: 2 })],
        [
          ['a', 1],
          ['a', 2],
          ['a', 3.5],
        ],
      ),
    ).toEqual([
      ['a', 1, true, ''],
      ['a', 2, false, '1.00 s after the last event; events within 2 s are ignored (dead time).'],
      ['a', 3.5, true, ''],
    ]);
  });

  it('take a watch that was stored before a parameter came into being', () => {
    const { baselineS: _later, ...params } = spec('beat').params;
    expect(() => createWatches([{ ...spec('beat'), params }], CONTEXT, () => undefined)).not.toThrow();
  });

  it('refuse what comes before its start, or sooner after it than anything can be there', () => {
    const specs = [button('start'), button('finish', { after: 'start', leastS: 8 })];
    expect(
      seen(specs, [
        ['finish', 1],
        ['start', 2],
        ['finish', 5],
        ['finish', 30],
      ]),
    ).toEqual([
      ['finish', 1, false, 'Before the first “start”.'],
      ['start', 2, true, ''],
      ['finish', 5, false, '3.00 s after “start”; events before 8 s are ignored (minimum time).'],
      ['finish', 30, true, ''],
    ]);
  });

  it.each<[string, WatchSpec[], RegExp]>([
    ['an unknown kind', [{ ...spec('beat'), kind: 'sneeze' }], /Unknown event type “sneeze”/],
    ['an event that was deleted', [spec('beat', {}, { after: 'x' })], /no longer exists/],
    ['a parameter beyond its limits', [spec('beat', { level: 2 })], /below 1; received 2/],
    ['a parameter that it has not', [spec('beat', { foo: 1 })], /no parameter “foo”/],
    ['an empty sector', [spec('sector', { fromDeg: 10, toDeg: 10 })], /different ends/],
    ['a signal without its column', [spec('signal')], /needs a raw column/],
    ['n of m that cannot be', [spec('level', { n: 4, m: 3 })], /received 4 of 3/],
  ])('name %s', (_what, specs, message) => {
    expect(() => createWatches(specs, CONTEXT, () => undefined)).toThrow(WatchError);
    expect(() => createWatches(specs, CONTEXT, () => undefined)).toThrow(message);
  });
});

const traceOf = (times: Float64Array, values: Float64Array, more: Partial<Trace> = {}): Trace => ({
  times,
  values,
  unit: 'N',
  slowestHz: Number.NaN,
  fastestHz: Number.NaN,
  ...more,
});

describe('parameters found in data', () => {
  it('of pulses lie half way between the noise and the smallest, and say so', () => {
    const random = seededRandom(3);
    const times = Float64Array.from({ length: 20_000 }, (_, i) => i / 1000);
    const heights = [1150, 1400, 1300, 1600];
    const values = times.map((t) => {
      const k = Math.floor(t / 5);
      const at = t - 5 * k - 2;
      return (
        6 * random.normal() + (at > 0 && at < 0.012 ? heights[k]! * Math.sin((Math.PI * at) / 0.012) : 0)
      );
    });
    const found = detectorKind('pulse')!.find!(traceOf(times, values));
    if ('problem' in found) throw new Error(found.problem);
    expect(found.params['level']).toBeGreaterThan(300);
    expect(found.params['level']).toBeLessThan(900);
    expect(found.why).toMatch(
      /halfway between the noise above rest, .* N, and the smallest of 4 pulses, 11\d\d N/,
    );
  });

  it('of an electrocardiogram find every beat once, in streams of five minutes by what one minute proposed', () => {
    const wrong = [1, 2, 5, 7, 22, 61, 159, 287].map((seed) => {
      const ecg = electrocardiogram(seed);
      const minute = Math.round(60 * ecg.sampleRateHz);
      const found = detectorKind('beat')!.find!(
        traceOf(ecg.times.subarray(0, minute), ecg.values.subarray(0, minute), { unit: 'mV' }),
      );
      if ('problem' in found) throw new Error(found.problem);
      expect(found.why).toMatch(/mV: between the noise.*the baseline drifts/);
      const times: number[] = [];
      const watches = createWatches(
        [spec('beat', found.params)],
        { sampleRateHz: ecg.sampleRateHz, lagS: 0 },
        (e) => times.push(e.timeS),
      );
      ecg.times.forEach((t, i) => watches.reading(t, ecg.values[i]!));
      // Each beat that the signal was made of, the first one too, within a tenth of a second.
      const isNear = (a: number) => (b: number) => Math.abs(a - b) < 0.1;
      const lost = ecg.beats.filter((b) => times.filter(isNear(b)).length !== 1).length;
      return lost + times.filter((t) => !ecg.beats.some(isNear(t))).length;
    });
    expect(wrong).toEqual(Array(8).fill(0));
  });

  it.each(DETECTORS.filter((d) => d.find).map((d) => d.kind))(
    '%s: says what is missing where there is nothing to find',
    (kind) => {
      const { find } = detectorKind(kind)!;
      const few = find!(traceOf(Float64Array.of(1, 2), Float64Array.of(1, 2)));
      expect(few).toHaveProperty('problem', expect.stringMatching(/needed/));
      if (kind === 'steady' || kind === 'free-fall') return;
      const still = Float64Array.from({ length: 100 }, (_, i) => i);
      expect(find!(traceOf(still, new Float64Array(100)))).toHaveProperty('problem');
    },
  );

  it.each(['pulse', 'peak', 'level', 'motion', 'beyond', 'beat'])(
    '%s: what is found finds something in the same data',
    (kind) => {
      const { times, values } = everything();
      const found = detectorKind(kind)!.find!(traceOf(times, values));
      if ('problem' in found) throw new Error(`${kind}: ${found.problem}`);
      let n = 0;
      const watches = createWatches([spec(kind, found.params)], CONTEXT, () => n++);
      times.forEach((t, i) => watches.reading(t, values[i]!));
      expect(n).toBeGreaterThan(0);
    },
  );
});

describe('a level that is passed', () => {
  const passed = (n: number, m: number, shape: (i: number) => number) => {
    const events: WatchedEvent[] = [];
    const params = { level: 1.3, hysteresis: 0.2, direction: 'falling', n, m };
    const watches = createWatches([spec('level', params)], { ...CONTEXT, sampleRateHz: 25 }, (e) =>
      events.push(e),
    );
    for (let i = 0; i < 100; i++) watches.reading(i / 25, shape(i));
    return events;
  };

  it('counts what stays, and tells what was too short, with the moment of the first reading beyond', () => {
    const duck = passed(5, 6, (i) => (i >= 50 && i < 58 ? 0.75 : 1.8));
    expect(duck.map((e) => e.counted)).toEqual([true]);
    expect(Math.abs(duck[0]!.timeS - 49.5 / 25)).toBeLessThan(0.5 / 25);
    // A step may lie anywhere between two readings, and the line through it dates it at this share.
    const share = 25 * duck[0]!.timeS - 49;
    expect(duck[0]!.uTimeS).toBeCloseTo(Math.sqrt(1 / 12 + (share - 0.5) ** 2) / 25, 6);
    const leaf = passed(5, 6, (i) => (i >= 50 && i < 53 ? 0.5 : 1.8));
    expect(leaf.map((e) => [e.counted, e.why])).toEqual([
      [false, 'Fewer than 5 of the latest 6 readings stayed beyond the level.'],
    ]);
  });
});

describe('noise at a level', () => {
  /** Steps of a converter that stand still, then a slope through the level. */
  const uOf = (noiseAt?: (reading: number) => number) => {
    const events: WatchedEvent[] = [];
    const watches = createWatches(
      [spec('level', { level: 20, hysteresis: 5, direction: 'rising' })],
      { ...CONTEXT, sampleRateHz: 10, ...(noiseAt && { noiseAt }) },
      (e) => events.push(e),
    );
    for (let i = 0; i < 200; i++) watches.reading(i / 10, Math.max(0, i - 100.5));
    return events[0]!.uTimeS;
  };

  it('is what is stated of it there, where a line that bends or steps of a converter show none', () => {
    expect(uOf()).toBeCloseTo(0.002, 9);
    // Half way between two readings both have a say.
    expect(uOf((reading) => reading / 100)).toBeCloseTo((0.2 / Math.SQRT2) * 0.1, 9);
    expect(uOf(() => Number.NaN)).toBe(uOf());
  });
});

describe('a confirmation by two of three readings', () => {
  /** Ten stretches of 0.3 s, each with a gap of one reading; between them strays of one reading. */
  const values = Float64Array.from({ length: 1000 }, (_, i) => {
    const k = i % 100;
    return k >= 20 && k < 50 ? (k === 35 ? 0 : 10) : k === 80 ? 10 : 0;
  });
  const seen = (kind: string, params: WatchSpec['params']) => {
    const events: WatchedEvent[] = [];
    const watches = createWatches([spec(kind, params)], CONTEXT, (e) => events.push(e));
    values.forEach((v, i) => watches.reading(i / 100, v));
    return events.filter((e) => e.what === 'event');
  };
  const shortest = { n: 2, m: 3 };
  it.each<[string, WatchSpec['params']]>([
    ['level', { level: 5, hysteresis: 1 }],
    ['beyond', { side: 'above', level: 5, hysteresis: 1 }],
    ['pulse', { level: 5, hysteresis: 1 }],
    ['sector', { fromDeg: 5, toDeg: 20, hysteresisDeg: 1 }],
    ['motion', { startLevel: 5, stopLevel: 4, holdS: 0.1, drawnBack: false }],
    ['beat', { level: 0.5, minHeight: 5, refractoryS: 0.2, memoryS: 4 }],
  ])('lets "%s" pass over what is short, and over a gap', (kind, params) => {
    const loose = seen(kind, params);
    const found = seen(kind, { ...params, ...shortest });
    expect(found.filter((e) => e.counted)).toHaveLength(10);
    // Every stretch begins between its last reading at rest and its first.
    found
      .filter((e) => e.counted)
      .forEach((e, k) => expect(Math.abs(e.timeS - (k + 0.195))).toBeLessThan(0.0051));
    if (kind === 'motion') return expect(loose.filter((e) => e.counted)).toHaveLength(10);
    expect(loose.filter((e) => e.counted).length).toBeGreaterThan(19);
    const strays = found.filter((e) => !e.counted);
    expect(strays.length).toBeGreaterThan(8);
    for (const stray of strays) expect(stray.why).toMatch(/^Fewer than 2 of the latest 3 readings/);
  });

  it('of a drop looks below the level', () => {
    const low = values.map((v) => 1 - v / 10);
    const count = (params: WatchSpec['params']) => {
      const events: WatchedEvent[] = [];
      const watches = createWatches([spec('free-fall', params)], CONTEXT, (e) => events.push(e));
      low.forEach((v, i) => watches.reading(i / 100, v));
      return events.filter((e) => e.what === 'event' && e.counted).length;
    };
    expect(count({ level: 0.4, shortestS: 0.001 })).toBe(30);
    expect(count({ level: 0.4, shortestS: 0.001, n: 2, m: 3 })).toBe(10);
  });

  it('of peaks is so many readings that stand out, or so long', () => {
    const peaks = (params: WatchSpec['params']) => {
      const found = seen('peak', { prominence: 5, ...params });
      return [found.filter((e) => e.counted).length, found.find((e) => !e.counted)?.why];
    };
    expect(peaks({})).toEqual([30, undefined]);
    expect(peaks({ least: 2 })).toEqual([20, 'Only 1 of the required 2 readings in the peak.']);
    expect(peaks({ shortestS: 0.02 })).toEqual([20, 'Peak is shorter than 0.02 s.']);
  });

  it('of a run lets a stray reading pass that would have ended it', () => {
    const found = seen('motion', { startLevel: 5, stopLevel: 4, holdS: 0.2, drawnBack: false });
    expect(found).toHaveLength(0);
    const with2of3 = { startLevel: 5, stopLevel: 4, holdS: 0.2, drawnBack: false, ...shortest };
    expect(seen('motion', with2of3)).toHaveLength(10);
  });
});

describe('beats', () => {
  it('count from the first after a rest, and after the next rest again', () => {
    const random = seededRandom(8);
    const begins = [5, 60];
    const beat = (t: number) =>
      begins.some((b) => t > b && t < b + 10) ? Math.max(0, Math.sin(2 * Math.PI * (t - 5))) : 0;
    const times: number[] = [];
    const watches = createWatches(
      [spec('beat', { minHeight: 0.5, refractoryS: 0.3, memoryS: 4 })],
      CONTEXT,
      (e) => times.push(e.timeS),
    );
    for (let i = 0; i < 8000; i++) watches.reading(i / 100, beat(i / 100) + 0.01 * random.normal());
    expect(times).toHaveLength(20);
    expect(times[0]).toBeCloseTo(5.07, 1);
    expect(times[10]).toBeCloseTo(60.07, 1);
  });
});

describe('a signal of the board', () => {
  const rows = [0, 0, 1, 0, 1, 1, 1, 1, 1, 0, 0, 0];
  const seen = (params: WatchSpec['params']) => {
    const events: WatchedEvent[] = [];
    const watches = createWatches([spec('signal', params, { column: 'go' })], CONTEXT, (e) => events.push(e));
    rows.forEach((x, t) => watches.raw('go', t, x));
    return events.filter((e) => e.counted).map((e) => e.timeS);
  };

  it('is half way between its rows, either way if wanted', () => {
    expect(seen({ direction: 'rising' })).toEqual([1.5, 3.5]);
    expect(seen({ direction: 'either' })).toEqual([1.5, 2.5, 3.5, 8.5]);
  });

  it('that bounces is one, at its first contact, once several rows confirm it', () => {
    expect(seen({ direction: 'rising', n: 3, m: 5 })).toEqual([1.5]);
    expect(seen({ direction: 'rising', n: 3, m: 3 })).toEqual([3.5]);
  });
});

describe('a direction', () => {
  it('stays in a sector across north, with hysteresis at its edges', () => {
    const events: WatchedEvent[] = [];
    const params = { fromDeg: 350, toDeg: 10, hysteresisDeg: 3, shortestS: 0 };
    const watches = createWatches([spec('sector', params)], { ...CONTEXT, sampleRateHz: 1 }, (e) =>
      events.push(e),
    );
    [340, 348, 352, 359, 1, 358, 3, 12, 9, 20, 180].forEach((deg, t) => watches.reading(t, deg));
    const [stay] = events.filter((e) => e.what === 'event');
    expect(events.filter((e) => e.what === 'event')).toHaveLength(1);
    expect(stay!.timeS).toBeCloseTo(1.5, 6);
    // It left past 10 degrees on the way from 9 to 20.
    expect(stay!.endS).toBeCloseTo(8 + 1 / 11, 6);
  });
});

const NO_BUDGET = budgetWith(() => ({ systematic: Number.NaN, noise: Number.NaN }), null);
const EXACT = budgetWith(() => ({ systematic: 0, noise: 0 }), null);

function figures(specs: FigureSpec[], change: Partial<Parameters<typeof createFigures>[2]> = {}): Figures {
  return createFigures(specs, ['a', 'b'], {
    unit: 'N',
    sampleRateHz: 10,
    isDirection: false,
    budget: NO_BUDGET,
    budgetOf: () => NO_BUDGET,
    clockShare: 0,
    edgesOf: () => [],
    unitOf: (id) => (id === 'volts' ? 'V' : id === 'amps' ? 'A' : id === 'newtons' ? 'N' : null),
    ...change,
  });
}

const figure = (
  kind: string,
  params: FigureSpec['params'] = {},
  more: Partial<FigureSpec> = {},
): FigureSpec => ({
  id: 'f',
  name: 'F',
  kind,
  watches: Object.fromEntries(Object.keys(figureKind(kind)!.roles).map((r, i) => [r, i === 0 ? 'a' : 'b'])),
  others: [],
  params: { ...figureKind(kind)!.defaults, ...params },
  askId: null,
  ...more,
});

const at = (watchId: string, timeS: number, more: Partial<WatchedEvent> = {}): WatchedEvent => ({
  what: 'event',
  timeS,
  endS: timeS,
  at: 0,
  value: Number.NaN,
  area: Number.NaN,
  uTimeS: 0.01,
  counted: true,
  why: '',
  watchId,
  lagS: 0,
  ...more,
});

describe('worked examples of figures', () => {
  const feed = (
    f: Figures,
    values: readonly number[],
    of: (id: string, i: number) => number = () => Number.NaN,
  ) => values.forEach((v, i) => f.reading(i / 10, v, (id) => of(id, i)));
  const value = (f: Figures) => f.now()[0]!.value;

  it('time between two events takes off what each is late by', () => {
    const f = figures([figure('time-between')]);
    expect(f.now()[0]!.reason).toMatch(/start/);
    f.event(at('a', 10));
    f.event(at('b', 50.04, { lagS: 0.04 }));
    expect(value(f)).toBeCloseTo(40, 12);
    expect(f.now()[0]!.u).toBeCloseTo(Math.SQRT2 * 0.01, 6);
    expect(f.now()[0]!.unit).toBe('s');
  });

  it('speed over a course carries the uncertainty of its length', () => {
    const f = figures([figure('course-speed', { lengthM: 25, uncertaintyM: 0.5, to: 'mps' })]);
    f.event(at('a', 0));
    f.event(at('b', 50));
    expect(value(f)).toBe(0.5);
    // Expanded 0.5 m of 25 m: one per cent, standard.
    expect(f.now()[0]!.u / 0.5).toBeCloseTo(0.01, 4);
  });

  it('cadence is 0 once nothing comes, and what does not count is not counted', () => {
    const f = figures([figure('cadence', { over: 4, stillS: 3 }), figure('count', {}, { id: 'n' })]);
    for (let k = 0; k < 10; k++) f.event(at('a', 0.5 * k));
    f.event(at('a', 4.6, { counted: false }));
    f.reading(4.7, 1, () => Number.NaN);
    expect(value(f)).toBeCloseTo(120, 9);
    expect(f.now()[1]!.value).toBe(10);
    f.reading(9, 1, () => Number.NaN);
    expect(value(f)).toBe(0);
  });

  it('missed and doubled beats are told by their intervals', () => {
    const f = figures([figure('missed'), figure('interval-scatter', { over: 10 }, { id: 's' })]);
    [0, 1, 2, 3, 4, 6, 7, 8, 8.2, 9, 10, 11].forEach((t) => f.event(at('a', t)));
    expect(f.now()[0]!.how).toBe('1 missed and 1 counted twice out of 12.');
  });

  it('a clock that beats in 1.001 s loses 86.3 s a day', () => {
    const f = figures([figure('day-drift', { nominalS: 1 })], { clockShare: 20e-6 });
    for (let k = 0; k <= 100; k++) f.event(at('a', 1.001 * k, { uTimeS: 0.001 }));
    expect(value(f)).toBeCloseTo(-86_400 * (1 - 1 / 1.001), 6);
    expect(f.now()[0]!.u).toBeGreaterThan(86_400 * 20e-6);
  });

  it('energy of ten newtons over two seconds, charge, turns and watt-hours come in units of their own', () => {
    const ten = Array<number>(21).fill(10);
    const ns = figures([figure('integral', { to: 'Ns' })]);
    feed(ns, ten);
    expect(value(ns)).toBeCloseTo(20, 12);
    const turns = figures([figure('integral', { to: '1' })], { unit: 'rpm' });
    feed(turns, Array<number>(601).fill(60));
    expect(value(turns)).toBeCloseTo(60, 9);
    const wh = figures([figure('integral', { to: 'Wh' }, { others: ['amps'] })], { unit: 'V' });
    feed(wh, Array<number>(36_001).fill(4), () => 0.5);
    expect(value(wh)).toBeCloseTo(2, 9);
    const charge = figures([figure('integral', { to: 'mAh', counts: 'only above zero' })], { unit: 'A' });
    feed(charge, [...Array<number>(36_001).fill(0.5), ...Array<number>(100).fill(-1)]);
    expect(value(charge)).toBeCloseTo(500, 0);
  });

  it('of means over their steps a sum is each one times its step, also where steps change', () => {
    const means = [
      [0, 5],
      [2, 10],
      [3, 10],
      [7, 2],
    ] as const;
    const sums = [true, false].map((meansOfSteps) => {
      const f = figures([figure('integral', { to: 'Ns' })], { meansOfSteps });
      for (const [t, x] of means) f.reading(t, x, () => Number.NaN);
      return value(f);
    });
    expect(sums).toEqual([38, 15 + 10 + 24]);
  });

  it('extremes keep their moment; a reset begins anew', () => {
    const f = figures([figure('extreme', { which: 'lowest' })]);
    feed(f, [3, 1, 2]);
    expect([value(f), f.now()[0]!.atS]).toEqual([1, 0.1]);
    f.reset(0.2);
    expect(value(f)).toBeNaN();
    expect(f.now()[0]!.sinceS).toBe(0.2);
    f.reading(0.3, 5, () => Number.NaN);
    expect(value(f)).toBe(5);
  });

  it('mean heading across north is north, and its wander is small', () => {
    const f = figures([figure('mean', { windowS: 0 }), figure('wander', { windowS: 0 }, { id: 'w' })], {
      unit: 'deg',
      isDirection: true,
    });
    feed(f, [358, 2, 359, 1, 357, 3]);
    expect(value(f) > 180 ? value(f) - 360 : value(f)).toBeCloseTo(0, 6);
    expect(f.now()[1]!.value).toBeLessThan(3);
  });

  it('directions that cancel have no mean', () => {
    const f = figures([figure('mean', { windowS: 0 })], { unit: 'deg', isDirection: true });
    feed(f, [0, 180, 90, 270]);
    expect(f.now()[0]!.reason).toMatch(/cancel/);
  });

  it('rate of rise, time to target and fastest change', () => {
    const f = figures(
      [
        figure('rate-of-rise', { windowS: 10, to: 'KPerMin' }),
        figure('time-to-target', { target: 80, windowS: 10, to: 's' }, { id: 't' }),
        figure('steepest', {}, { id: 's' }),
      ],
      { unit: 'degC' },
    );
    feed(
      f,
      Array.from({ length: 200 }, (_, i) => 20 + i / 100),
    );
    const [rise, target, steep] = f.now();
    expect(rise!.value).toBeCloseTo(6, 6);
    expect(target!.value).toBeCloseTo((80 - 21.99) / 0.1, 6);
    expect(steep!.value).toBeCloseTo(0.1, 6);
  });

  it('a target that it moves away from has no time', () => {
    const f = figures([figure('time-to-target', { target: 0, windowS: 5, to: 's' })], { unit: 'degC' });
    feed(
      f,
      Array.from({ length: 100 }, (_, i) => 20 + i / 100),
    );
    expect(f.now()[0]!.reason).toMatch(/away/);
  });

  it('a target that it slows down towards has no time, and a bend that goes on widens that of one near', () => {
    const slowing = Array.from({ length: 300 }, (_, i) => 66 - 46 * Math.exp(-i / 600));
    const to = (target: number) => {
      const f = figures([figure('time-to-target', { target, windowS: 30, to: 's' })], {
        unit: 'degC',
        budget: EXACT,
      });
      feed(f, slowing);
      return f.now()[0]!;
    };
    expect(to(80).reason).toMatch(/slowing down/);
    for (const target of [39, 42, 45]) {
      const near = to(target);
      const truth = 60 * Math.log(46 / (66 - target)) - 29.9;
      expect(Math.abs(near.value - truth)).toBeLessThan(2 * near.u);
      expect(near.u).toBeLessThan(truth / 2);
    }
  });

  it('a steady bend does not make the mean rate of rise worse', () => {
    const f = figures([figure('rate-of-rise', { windowS: 10, to: 'KPerMin' })], {
      unit: 'degC',
      budget: EXACT,
    });
    feed(
      f,
      Array.from({ length: 101 }, (_, i) => 20 + i / 100 + (i - 50) ** 2 / 10_000),
    );
    const rise = f.now()[0]!;
    expect(rise.value).toBeCloseTo(6, 6);
    expect(rise.u).toBeLessThan(1e-6);
  });

  it('nor does a bend of any shape: of a straight line through it only noise makes another', () => {
    const random = seededRandom(5);
    const f = figures([figure('rate-of-rise', { windowS: 60, to: 'KPerMin' })], {
      unit: 'degC',
      budget: EXACT,
    });
    const curve = Array.from({ length: 601 }, (_, i) => 100 * (1 - Math.exp(-i / 1500)));
    feed(
      f,
      curve.map((x) => x + 0.01 * random.normal()),
    );
    // Noise over the root of the sum of squares of times from the middle, K/min.
    const exact = (60 * 0.01) / Math.sqrt((601 * 60 ** 2) / 12);
    expect(f.now()[0]!.u / exact).toBeGreaterThan(0.8);
    expect(f.now()[0]!.u / exact).toBeLessThan(1.5);
  });

  it('inner resistance: 50 mV for half an ampere is 100 milliohm', () => {
    const f = figures([figure('load-step', { leastA: 0.2, settleS: 1 }, { others: ['amps'] })], {
      unit: 'V',
    });
    feed(
      f,
      Array.from({ length: 60 }, (_, i) => (i < 30 ? 4 : 3.95)),
      (_id, i) => (i < 30 ? 0 : 0.5),
    );
    expect(value(f)).toBeCloseTo(100, 9);
    expect(f.now()[0]!.unit).toBe('mohm');
  });

  it('capacity ends at the cut-off; a cell that is taken off before holds more', () => {
    const run = (end: number) => {
      const f = figures(
        [figure('capacity', { cutOffV: 3, leastA: 0.05, gives: 'mAh' }, { others: ['volts'] })],
        {
          unit: 'A',
        },
      );
      feed(
        f,
        Array.from({ length: 400 }, (_, i) => (i > 10 && i < end ? 1 : 0)),
        (_id, i) => 4 - 0.005 * i,
      );
      return f.now()[0]!;
    };
    // On anywhere from 1.0 to 1.1 s, and 3 V are reached at 20 s: 18.95 s of one ampere.
    expect(run(400).value).toBeCloseTo((18.95 / 3600) * 1000, 3);
    expect(run(400).how).toMatch(/^To 3 V/);
    expect(run(100).how).toMatch(/Stopped at .* before the cutoff/);
  });

  it('spread of several channels at the same moment', () => {
    const f = figures([figure('spread', {}, { others: ['newtons'] })]);
    feed(f, [5, 6], () => 2);
    expect(value(f)).toBe(4);
  });

  it.each<[string, FigureSpec, RegExp]>([
    ['an unknown kind', { ...figure('count'), kind: 'mood' }, /Unknown result type “mood”/],
    ['an event that was deleted', figure('count', {}, { watches: { of: 'z' } }), /Choose an event for/],
    ['units that do not fit', figure('time-to-distance'), /cannot be calculated from this channel/],
    ['a channel that was deleted', figure('spread', {}, { others: ['nobody'] }), /was deleted/],
    ['a channel too few', figure('load-step'), /needs the cell current/],
    ['a parameter beyond its limits', figure('cadence', { over: 0 }), /from 1/],
  ])('names %s', (_what, spec, message) => {
    const made = figures([spec, figure('extreme', {}, { id: 'good' })]);
    expect(made.problems[0]).toBeInstanceOf(FigureError);
    expect(made.problems[0]!.message).toMatch(message);
    // It says so instead of a value, and takes no other with it.
    made.reading(0, 3, () => Number.NaN);
    expect(made.now().map((f) => [f.value, f.reason])).toEqual([
      [Number.NaN, made.problems[0]!.message],
      [3, ''],
    ]);
  });
});

describe.each(FIGURES.map((k) => k.kind))('figure "%s"', (kind) => {
  it('goes on from what it saved as if it had never stopped', () => {
    const found = figureKind(kind)!;
    const wanted = UNITS_OF[kind] ?? 'N';
    const others =
      found.others === 'several'
        ? kind === 'integral'
          ? []
          : ['newtons', 'newtons']
        : [...found.others.map((o) => (/voltage/.test(o) ? 'volts' : 'amps'))];
    const make = () =>
      figures(
        [
          figure(
            kind,
            found.defaultsFor?.(
              wanted,
              others.map(() => wanted),
            ) ?? {},
            { others },
          ),
        ],
        {
          unit: wanted,
          clockShare: 1e-5,
          budget: budgetWith((v) => ({ systematic: 0.01 * Math.abs(v), noise: 0.1 }), null),
        },
      );
    const random = seededRandom(9);
    const rows = Array.from({ length: 800 }, (_, i) => ({
      t: i / 10,
      x: 30 + 28 * Math.sin(i / 60) + random.normal(),
      y: i % 200 < 100 ? 0.1 : 1,
    }));
    const go = (cut: (i: number) => boolean) => {
      let f = make();
      rows.forEach(({ t, x, y }, i) => {
        if (cut(i)) {
          const saved = unplain(JSON.parse(JSON.stringify(plain(f.save())))) as ReturnType<Figures['save']>;
          f = make();
          f.restore(saved);
        }
        if (i % 15 === 7) {
          f.event(at(i % 30 === 7 ? 'a' : 'b', t, { what: 'start' }));
          f.event(at(i % 30 === 7 ? 'a' : 'b', t, { endS: t + 0.3, value: x, area: 2 * x }));
        }
        f.reading(t, x, () => y);
      });
      return f.now();
    };
    expect(go((i) => i % 97 === 50)).toEqual(go(() => false));
  });
});

const UNITS_OF: Readonly<Record<string, 'degC' | 'A' | 'V' | 'm' | 'mps' | 'rpm'>> = {
  'rate-of-rise': 'degC',
  capacity: 'A',
  'load-step': 'V',
  path: 'm',
  'time-to-distance': 'mps',
  'run-down': 'rpm',
};
