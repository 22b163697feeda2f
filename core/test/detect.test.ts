import { describe, expect, it } from 'vitest';
import {
  beats,
  detectAll,
  findPeaks,
  levelCrossings,
  pulses,
  runStartStop,
  stableWindows,
  streamFaults,
  streamPeaks,
  summariseBeats,
  type Beat,
  type Crossing,
  type PeakEvent,
  type Pulse,
  type RunEvent,
  type StableWindow,
  type StreamFault,
} from '../src/detect/index.ts';
import { seededRandom } from '../src/numerics/index.ts';
import { cases } from './support/vectors.ts';

const clock = (n: number, rate: number) => Float64Array.from({ length: n }, (_, i) => i / rate);

describe('findPeaks', () => {
  it.each(cases('peaks'))('$options', (c) => {
    const found = findPeaks(Float64Array.from(c.input as number[]), c.options);
    expect(Array.from(found.indices)).toEqual(c.peaks);
    found.prominences.forEach((p, i) => expect(p).toBeCloseTo(c.prominence[i], 12));
  });

  it('takes the middle of a flat top, none at the ends, none in nothing', () => {
    expect(Array.from(findPeaks(Float64Array.from([0, 1, 1, 1, 0, 5])).indices)).toEqual([2]);
    expect(findPeaks(new Float64Array(0)).indices).toHaveLength(0);
    expect(findPeaks(new Float64Array(50)).indices).toHaveLength(0);
  });

  it('refuses a sample that is no number', () => {
    expect(() => findPeaks(Float64Array.from([0, Number.NaN, 0]))).toThrow(/Sample 1 is not a number/);
  });

  it('finds the same peaks upside up and mirrored in time', () => {
    const random = seededRandom(4);
    const x = Float64Array.from({ length: 500 }, () => random.normal());
    const a = findPeaks(x, { prominence: 1.5 });
    const b = findPeaks(x.slice().reverse(), { prominence: 1.5 });
    expect(Array.from(b.indices, (i) => 499 - i).reverse()).toEqual(Array.from(a.indices));
  });
});

describe('level crossings', () => {
  it('times a crossing between samples and counts noise at the level once', () => {
    const times = clock(200, 100);
    const random = seededRandom(1);
    const values = times.map((t) => t - 1.003 + 0.02 * random.normal());
    const found = detectAll<Crossing>(
      (emit) => levelCrossings({ level: 0, hysteresis: 0.2 }, emit),
      times,
      values,
    );
    expect(found).toHaveLength(1);
    expect(found[0]!.direction).toBe('rising');
    expect(found[0]!.timeS).toBeCloseTo(1.003, 1);
    expect(
      detectAll<Crossing>((emit) => levelCrossings({ level: 0, hysteresis: 0 }, emit), clock(3, 1), [
        -1,
        Number.NaN,
        3,
      ])[0]!.timeS,
    ).toBeCloseTo(0.5);
  });

  it('alternates, and refuses a negative band', () => {
    const times = clock(1000, 100);
    const found = detectAll<Crossing>(
      (emit) => levelCrossings({ level: 0.2, hysteresis: 0.1 }, emit),
      times,
      times.map((t) => Math.sin(2 * Math.PI * t)),
    );
    expect(found).toHaveLength(20);
    found.forEach((c, i) => expect(c.direction).toBe(i % 2 === 0 ? 'rising' : 'falling'));
    expect(() => levelCrossings({ level: 0, hysteresis: -1 }, () => {})).toThrow(/received -1/);
  });
});

describe('peaks in a stream', () => {
  it('gives time and height between samples, once each', () => {
    const times = clock(1000, 100);
    const found = detectAll<PeakEvent>(
      (emit) => streamPeaks({ height: 0, prominence: 0.5, minIntervalS: 0.1 }, emit),
      times,
      times.map((t) => Math.sin(2 * Math.PI * 1.03 * t)),
    );
    expect(found).toHaveLength(10);
    found.forEach((p, i) => {
      expect(p.timeS).toBeCloseTo((0.25 + i) / 1.03, 4);
      expect(p.value).toBeCloseTo(1, 4);
    });
  });
});

describe('beats', () => {
  const options = { refractoryS: 0.3, memoryS: 4, level: 0.5, minHeight: 0.2 };
  const signal = (skip: (k: number) => boolean, size = (_t: number) => 1) => {
    const times = clock(6000, 100);
    const random = seededRandom(2);
    return {
      times,
      values: times.map((t) => {
        const k = Math.round(t);
        const bump = skip(k) ? 0 : Math.exp(-(((t - k) / 0.08) ** 2));
        return 3 + 0.1 * Math.sin(t / 7) + size(t) * bump + 0.02 * random.normal();
      }),
    };
  };

  it('follows a fading signal without losing or doubling', () => {
    const { times, values } = signal(
      () => false,
      (t) => 1 - 0.6 * (t / 60),
    );
    const found = detectAll<Beat>((emit) => beats(options, emit), times, values);
    const summary = summariseBeats(
      found.map((b) => b.timeS),
      1,
    )!;
    expect(found.length).toBeGreaterThanOrEqual(58);
    expect(summary.perMinute).toBeCloseTo(60, 1);
    expect([summary.missed, summary.doubled]).toEqual([0, 0]);
    expect(Math.abs(summary.secondsADay!)).toBeLessThan(60);
  });

  it('names a missed beat and a doubled one instead of averaging them', () => {
    const { times, values } = signal((k) => k === 20 || k === 40);
    const found = detectAll<Beat>((emit) => beats(options, emit), times, values).map((b) => b.timeS);
    const summary = summariseBeats([...found.slice(0, 10), found[9]! + 0.2, ...found.slice(10)])!;
    expect(summary).toMatchObject({ missed: 2, doubled: 1 });
    expect(summary.perMinute).toBeCloseTo(60, 0);
    expect(summariseBeats([1, 2])).toBeNull();
  });

  it('finds no beat in noise', () => {
    const random = seededRandom(8);
    const times = clock(3000, 100);
    expect(
      detectAll<Beat>(
        (emit) => beats(options, emit),
        times,
        times.map(() => 0.02 * random.normal()),
      ),
    ).toEqual([]);
  });

  it('finds a beat whose rise has a reading between the level as it was and as it is now', () => {
    const options = { refractoryS: 0.1, memoryS: 2, level: 0.7, minHeight: 5 };
    // The level sinks between two readings: wherever the second last one lies, the beat is one.
    for (let k = 0; k < 400; k++) {
      const between = 5 + k / 200;
      const wave = (i: number) => [0, 0, 0, 0, between, 8, 10, 4, 0, 0][i % 10]!;
      const found = detectAll<Beat>(
        (emit) => beats(options, emit),
        clock(60, 10),
        Float64Array.from({ length: 60 }, (_, i) => wave(i)),
      );
      expect(found).toHaveLength(5);
    }
  });
});

describe('pulses, bouts and gates', () => {
  it('measures width, peak and area of a half-sine blow', () => {
    const times = clock(20000, 10000);
    const values = times.map((t) => (t > 1 && t < 1.02 ? 800 * Math.sin((Math.PI * (t - 1)) / 0.02) : 0));
    const [blow, ...others] = detectAll<Pulse>(
      (emit) => pulses({ level: 10, hysteresis: 5 }, emit),
      times,
      values,
    );
    expect(others).toEqual([]);
    expect(blow!.peak).toBeCloseTo(800, 0);
    expect(blow!.widthS).toBeCloseTo(0.02, 3);
    expect(blow!.area).toBeCloseTo((2 * 800 * 0.02) / Math.PI, 1);
    const cut = detectAll<Pulse>(
      (emit) => pulses({ level: 10, hysteresis: 5 }, emit),
      times.subarray(0, 10100),
      values.subarray(0, 10100),
    );
    expect(cut[0]!.open).toBe(true);
  });

  it('takes the crossing that was confirmed, not a stray one shortly before', () => {
    const crossing = (n: number, m: number) =>
      detectAll<Crossing>(
        (emit) => levelCrossings({ level: 0, hysteresis: 0, n, m }, emit),
        clock(12, 1),
        [-1, 1, -1, -1, 1, -1, -1, 1, 1, 1, 1, 1],
      ).map(({ timeS, confirmed }) => [timeS, confirmed]);
    expect(crossing(2, 3)).toEqual([
      [0.5, false],
      [3.5, false],
      [6.5, true],
    ]);
    expect(crossing(3, 3).at(-1)).toEqual([6.5, true]);
    expect(() => crossing(4, 3)).toThrow(/received 4 of 3/);
  });

  it('starts a run at the crossing that lasted, not at a bump', () => {
    const times = clock(200, 10);
    const values = times.map((t) => (t < 5 ? (t > 2 && t < 2.3 ? 3 : 0) : t < 15 ? (t - 5) * 2 : 0));
    const found = detectAll<RunEvent>(
      (emit) => runStartStop({ startLevel: 1, stopLevel: 0.5, holdS: 1 }, emit),
      times,
      values,
    );
    expect(found.map((e) => e.kind)).toEqual(['start', 'stop']);
    expect(found[0]!.timeS).toBeCloseTo(5.5, 6);
    expect(found[1]!.timeS).toBeCloseTo(15, 0);
  });

  it('marks where the signal stands still', () => {
    const times = clock(600, 10);
    const values = times.map((t) => (t < 20 ? t : t < 50 ? 20 : 20 + (t - 50)));
    const found = detectAll<StableWindow>(
      (emit) => stableWindows({ windowS: 5, drift: 0.5, scatter: 0.5 }, emit),
      times,
      values,
    );
    expect(found).toHaveLength(1);
    expect(found[0]!.startS).toBeCloseTo(20, 0);
    expect(found[0]!.endS).toBeCloseTo(50, 0);
    expect(found[0]!.mean).toBeCloseTo(20, 1);
  });
});

describe('faults in a stream', () => {
  const faults = (times: number[], values: number[]) =>
    detectAll<StreamFault>(
      (emit) => streamFaults({ sampleRateHz: 10, stuckS: 1, lowest: 0, highest: 1023 }, emit),
      times,
      values,
    );

  it('names gaps, duplicates, time going backwards, stuck and clipped readings', () => {
    expect(faults([0, 0.1, 0.5, 0.6], [5, 6, 7, 8])).toEqual([
      { kind: 'gap', fromS: 0.1, toS: 0.5, count: 3 },
    ]);
    expect(faults([0, 0.1, 0.1, 0.2], [5, 6, 7, 8]).map((f) => f.kind)).toEqual(['duplicate']);
    expect(faults([0, 0.1, 0.05], [5, 6, 7]).map((f) => f.kind)).toEqual(['backwards']);
    const times = Array.from({ length: 30 }, (_, i) => i / 10);
    expect(
      faults(
        times,
        times.map((_, i) => (i < 10 ? i + 1 : 500)),
      ),
    ).toMatchObject([{ kind: 'stuck', count: 20 }]);
    expect(
      faults(
        times,
        times.map((_, i) => (i === 4 || i === 5 ? 1023 : i + 1)),
      ),
    ).toMatchObject([{ kind: 'clipping', count: 2 }]);
    expect(faults([0, 0.1, 0.2], [1, Number.NaN, 2])).toMatchObject([{ kind: 'missing', count: 1 }]);
  });

  it('finds nothing wrong with a good stream, or with none', () => {
    const times = Array.from({ length: 100 }, (_, i) => i / 10);
    expect(
      faults(
        times,
        times.map((_, i) => 500 + (i % 7)),
      ),
    ).toEqual([]);
    expect(faults([], [])).toEqual([]);
  });
});
