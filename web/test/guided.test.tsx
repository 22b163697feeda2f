import { describe, expect, it } from 'vitest';
import { TEMPLATES } from '@lucky-needle/core/plan';
import { circularMean } from '../src/pages/trueup/guided/circularMean.ts';
import { alikeChannels, guidedFor } from '../src/pages/trueup/guided/guidedFor.ts';
import { stretchRate } from '../src/pages/trueup/guided/stretchRate.ts';
import { newestMean } from '../src/pages/trueup/guided/useCollector.ts';
import { differenceOf } from '../src/workers/differenceOf.ts';

describe('the guided form of a line', () => {
  it.each([
    ['heading', 'rotate'],
    ['motion-counter', 'six-rests'],
    ['ac-power', 'ac'],
    ['several-temperatures', null],
    ['impact-peak', null],
    ['displacement', 'drags'],
    ['rotation', 'rate'],
    ['beat-rate', 'rate'],
    ['crossing-timer', null],
  ])('%s: %s', (template, guided) => {
    const { line } = TEMPLATES.find((t) => t.id === template)!.make().channels[0]!;
    expect(guidedFor(line)).toBe(guided);
  });
  it('does not count what is switched off', () => {
    const { line } = TEMPLATES.find((t) => t.id === 'heading')!.make().channels[0]!;
    expect(guidedFor({ ...line, stages: line.stages.map((s) => ({ ...s, off: true })) })).toBeNull();
  });
});

describe('newestMean', () => {
  const times = Float64Array.from({ length: 100 }, (_, i) => i / 10);
  it('takes the newest seconds only', () => {
    const values = Float64Array.from({ length: 100 }, (_, i) => (i < 80 ? 1000 : i % 2 === 0 ? 4 : 6));
    expect(newestMean(times, values, 1.9)).toMatchObject({ mean: 5, n: 20, sd: expect.closeTo(1.026, 2) });
  });
  it('is nothing without readings', () => {
    expect(newestMean(times, undefined, 2)).toBeNull();
    expect(newestMean(new Float64Array(0), new Float64Array(0), 2)).toBeNull();
  });
});

describe('channels that are put right together', () => {
  it('are those of the same columns and the same form', () => {
    const { channels } = TEMPLATES.find((t) => t.id === 'ac-power')!.make();
    const [first] = channels;
    expect(alikeChannels(channels, first!.line)).toHaveLength(channels.length);
    const other = {
      ...first!.line,
      sources: first!.line.sources.map((s) => ({ ...s, column: `${s.column}2` })),
    };
    expect(alikeChannels([...channels, { ...first!, id: 'x', line: other }], other).map((c) => c.id)).toEqual(
      ['x'],
    );
    const bare = { ...first!.line, stages: [] };
    expect(alikeChannels([...channels, { ...first!, id: 'y', line: bare }], bare).map((c) => c.id)).toEqual([
      'y',
    ]);
  });
});

describe('stretchRate', () => {
  const reading = (values: readonly number[]) => ({
    times: Float64Array.from(values, (_, i) => i),
    values: Float64Array.from(values),
    reasons: Uint8Array.from(values, (v) => (Number.isNaN(v) ? 1 : 0)),
  });
  it('is the mean of the good readings since then, a second', () => {
    const found = stretchRate(reading([999, 60, Number.NaN, 62, 61]), 1, 'perMin')!;
    expect(found).toMatchObject({ n: 3, seconds: 3, hz: expect.closeTo(61 / 60, 9) });
    expect(found.u).toBeGreaterThan(0);
  });
  it('wants three', () => {
    expect(stretchRate(reading([60, 61, Number.NaN]), 0, 'perMin')).toBeNull();
    expect(stretchRate(reading([]), 0, 'Hz')).toBeNull();
  });
});

describe('circularMean', () => {
  it('is right through north', () => {
    const found = circularMean([350, 10, 355, 5])!;
    expect(Math.min(found.mean, 360 - found.mean)).toBeLessThan(1e-9);
    expect(found).toMatchObject({ n: 4, sd: expect.closeTo(7.9, 1) });
  });
  it('turns with what it is the mean of, and passes over bad ones', () => {
    expect(circularMean([80, 100, Number.NaN])).toMatchObject({ n: 2, mean: expect.closeTo(90, 9) });
    expect(circularMean([Number.NaN])).toBeNull();
    expect(circularMean([])).toBeNull();
  });
});

describe('differenceOf', () => {
  const series = (times: number[], values: number[]) => ({
    times: Float64Array.from(times),
    values: Float64Array.from(values),
  });
  it('is second less first where both have a reading', () => {
    const found = differenceOf(
      series([0, 1, 2, 4], [1, 2, 3, 4]),
      series([1, 2, 3, 4], [5, Number.NaN, 7, 6]),
    );
    expect([...found.times]).toEqual([1, 2, 4]);
    expect([...found.values]).toEqual([3, Number.NaN, 2]);
    expect(found.mean).toBe(2.5);
  });
  it('is nothing where they share no instant', () => {
    const found = differenceOf(series([0, 2], [1, 1]), series([1, 3], [1, 1]));
    expect(found.times).toHaveLength(0);
    expect(found.mean).toBeNaN();
  });
});
