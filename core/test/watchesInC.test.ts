import { describe, expect, it } from 'vitest';
import { createWatches, detectorKind } from '../src/detect/index.ts';
import { compileLine, emitLineHeader } from '../src/line/index.ts';
import type { WatchSpec } from '../src/model/watch.ts';
import { seededRandom } from '../src/numerics/index.ts';
import { compileAndRun } from './support/runInC.ts';

const RATE = 200;
const line = compileLine({ sources: [{ column: 'force', unit: 'N' }], stages: [] }, { sampleRateHz: RATE });

const watch = (kind: string, params: WatchSpec['params'], more: Partial<WatchSpec> = {}): WatchSpec => ({
  id: 'blow',
  name: 'Blow */ of the hammer',
  kind,
  column: null,
  params: { ...detectorKind(kind)!.defaults, ...params },
  deadTimeS: 0,
  after: null,
  leastS: 0,
  ...more,
});

/** Blows and swings with noise, and readings that are none. */
function signal(): number[] {
  const random = seededRandom(31);
  return Array.from({ length: 12_000 }, (_, i) => {
    const t = i / RATE;
    if (i % 997 === 500) return Number.NaN;
    const blow = t % 1.7 < 0.08 ? (60 + 20 * Math.sin(t)) * Math.sin((Math.PI * (t % 1.7)) / 0.08) : 0;
    return 0.5 * Math.sin(t / 3) + blow + 0.8 * random.normal();
  });
}

/** What the C says of one of them: moment and size of each. */
function inC(watches: readonly WatchSpec[], id: string, values: readonly number[]): [number, number][] {
  const header = emitLineHeader(line, { name: 'Hammer', remarks: ['a test'], watches });
  const main = `#include <stdio.h>
#include "line.h"
int main(void) {
  hammer_line line; double v; LN_WIDE when; LN_REAL size = 0;
  hammer_start(&line);
  while (scanf("%lf", &v) == 1) {
    LN_REAL shown = hammer_convert(&line, v);
${watches
  .map(
    (w) =>
      `    if (hammer_counts_${w.id}(&line, shown, &when, &size)${w.id === id ? '' : ' && 0'}) printf("%.17g %.17g\\n", when, size);`,
  )
  .join('\n')}
  }
  return 0;
}`;
  const input = values.map((v) => (Number.isNaN(v) ? 'nan' : v.toPrecision(17))).join('\n');
  return compileAndRun({ files: { 'line.h': header, 'main.c': main }, main: 'main.c' }, input)
    .trim()
    .split('\n')
    .map((row) => row.split(' ').map(Number) as [number, number]);
}

/** Holds what the C says of one watch against the bench. @returns how many there were */
function same(specs: readonly WatchSpec[], id: string): number {
  const values = signal();
  const found: [number, number][] = [];
  const watches = createWatches(specs, { sampleRateHz: RATE, lagS: 0 }, (e) => {
    if (e.counted && e.what === 'event' && e.watchId === id) found.push([e.timeS, e.value]);
  });
  values.forEach((v, i) => watches.reading(i / RATE, v));
  expect(found.length).toBeGreaterThan(5);
  const c = inC(specs, id, values);
  expect(c).toHaveLength(found.length);
  c.forEach(([when, size], k) => {
    expect(when).toBeCloseTo(found[k]![0], 9);
    if (Number.isFinite(found[k]![1])) expect(size).toBeCloseTo(found[k]![1], 7);
  });
  return found.length;
}

describe('what counts, in C', () => {
  it.each<[string, WatchSpec]>([
    ['a pulse', watch('pulse', { level: 20, hysteresis: 8, shortestS: 0.01 })],
    ['a level', watch('level', { level: 20, hysteresis: 6, direction: 'rising', n: 3, m: 4 })],
    [
      'a level either way, with a dead time',
      watch('level', { level: 20, hysteresis: 6, direction: 'either', n: 1, m: 1 }, { deadTimeS: 1 }),
    ],
    ['a beat', watch('beat', { level: 0.5, minHeight: 25, refractoryS: 0.4, memoryS: 4, baselineS: 0 })],
    [
      'a beat over a wandering baseline',
      watch('beat', { level: 0.42, minHeight: 25, refractoryS: 0.4, memoryS: 4, baselineS: 0.5 }),
    ],
    [
      'a stretch above a level',
      watch('beyond', { side: 'above', level: 20, hysteresis: 5, shortestS: 0.01 }),
    ],
    ['a stretch below one', watch('beyond', { side: 'below', level: 20, hysteresis: 5, shortestS: 0.2 })],
    ['a drop', watch('free-fall', { level: 0.4, shortestS: 0.01 })],
    ['a peak', watch('peak', { height: 30, prominence: 10 })],
    [
      'a peak that stands out long enough',
      watch('peak', { height: 10, prominence: 10, least: 8, shortestS: 0.045 }),
    ],
    ['a pulse by some of some', watch('pulse', { level: 50, hysteresis: 4, n: 4, m: 6 })],
    [
      'a stretch by some of some',
      watch('beyond', { side: 'above', level: 50, hysteresis: 3, shortestS: 0, n: 3, m: 4 }),
    ],
    ['a drop by some of some', watch('free-fall', { level: 0.4, shortestS: 0.001, n: 3, m: 5 })],
    [
      'a stay by some of some',
      watch('sector', { fromDeg: 55, toDeg: 90, hysteresisDeg: 3, shortestS: 0, n: 3, m: 4 }),
    ],
    [
      'a beat by some of some',
      watch('beat', { level: 0.8, minHeight: 25, refractoryS: 0.4, memoryS: 4, baselineS: 0, n: 5, m: 7 }),
    ],
    ['a stay in a sector', watch('sector', { fromDeg: 15, toDeg: 60, hysteresisDeg: 3, shortestS: 0.01 })],
    ['a stay across north', watch('sector', { fromDeg: 340, toDeg: 20, hysteresisDeg: 3, shortestS: 0 })],
  ])('%s is found at the same moments, with the same size', (_what, spec) => {
    expect(same([spec], spec.id)).toBeGreaterThan(20);
  });

  it('keeps a dead time from the end of a stretch on, one that was too short and all', () => {
    const params = { side: 'above', level: 20, hysteresis: 5, shortestS: 0.062 };
    same([watch('beyond', params, { deadTimeS: 2.5 })], 'blow');
  });

  it('counts only after another, and not too soon after it', () => {
    const start = watch('level', { level: 60, hysteresis: 5 }, { id: 'start' });
    const finish = watch('pulse', { level: 20, hysteresis: 8 }, { after: 'start', leastS: 3 });
    same([start, finish], 'blow');
    const turned = emitLineHeader(line, {
      name: 'Hammer',
      remarks: [],
      watches: [watch('steady', {}, { id: 'start' }), finish],
    });
    expect(turned).toMatch(
      /is detected by Lucky Needle only, because the event it depends on is not exported\./,
    );
  });

  it('says of what cannot be written that the bench alone counts it', () => {
    const header = emitLineHeader(line, {
      name: 'Hammer',
      remarks: [],
      watches: [watch('steady', { windowS: 1, drift: 1, scatter: 1 })],
    });
    expect(header).toMatch(
      /"Blow \* \/ of the hammer" \(steady section\) is detected by Lucky Needle only\./,
    );
    expect(header).not.toMatch(/hammer_counts/);
  });
});
