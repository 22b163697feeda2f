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

/** What the C says: moment and size of each. */
function inC(spec: WatchSpec, values: readonly number[]): [number, number][] {
  const header = emitLineHeader(line, { name: 'Hammer', remarks: ['a test'], watches: [spec] });
  const main = `#include <stdio.h>
#include "line.h"
int main(void) {
  hammer_line line; double v; LN_WIDE when; LN_REAL size = 0;
  hammer_start(&line);
  while (scanf("%lf", &v) == 1)
    if (hammer_blow(&line, hammer_convert(&line, v), &when, &size)) printf("%.17g %.17g\\n", when, size);
  return 0;
}`;
  const input = values.map((v) => (Number.isNaN(v) ? 'nan' : v.toPrecision(17))).join('\n');
  return compileAndRun({ files: { 'line.h': header, 'main.c': main }, main: 'main.c' }, input)
    .trim()
    .split('\n')
    .map((row) => row.split(' ').map(Number) as [number, number]);
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
  ])('%s is found at the same moments, with the same size', (_what, spec) => {
    const values = signal();
    const found: [number, number][] = [];
    const watches = createWatches([spec], { sampleRateHz: RATE, lagS: 0 }, (e) => {
      if (e.counted && e.what === 'event') found.push([e.timeS, e.value]);
    });
    values.forEach((v, i) => watches.reading(i / RATE, v));
    expect(found.length).toBeGreaterThan(20);
    const c = inC(spec, values);
    expect(c).toHaveLength(found.length);
    c.forEach(([when, size], k) => {
      expect(when).toBeCloseTo(found[k]![0], 9);
      if (Number.isFinite(found[k]![1])) expect(size).toBeCloseTo(found[k]![1], 7);
    });
  });

  it('says of what cannot be written that the bench alone counts it', () => {
    const header = emitLineHeader(line, {
      name: 'Hammer',
      remarks: [],
      watches: [watch('steady', { windowS: 1, drift: 1, scatter: 1 })],
    });
    expect(header).toMatch(/"Blow \* \/ of the hammer" \(steady stretch\) is counted by the bench only\./);
    expect(header).not.toMatch(/hammer_blow/);
  });
});
