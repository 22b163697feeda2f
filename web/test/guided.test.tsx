import { describe, expect, it } from 'vitest';
import { TEMPLATES } from '@lucky-needle/core/plan';
import { circularMean } from '../src/pages/trueup/guided/circularMean.ts';
import { alikeChannels, guidedFor } from '../src/pages/trueup/guided/guidedFor.ts';
import { newestMean } from '../src/pages/trueup/guided/newestMean.ts';

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
