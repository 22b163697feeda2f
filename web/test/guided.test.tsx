import { describe, expect, it } from 'vitest';
import { TEMPLATES } from '@lucky-needle/core/plan';
import { guidedFor } from '../src/pages/trueup/guided/guidedFor.ts';
import { newestMean } from '../src/pages/trueup/guided/useCollector.ts';

describe('the guided form of a line', () => {
  it.each([
    ['heading', 'rotate'],
    ['motion-counter', 'six-rests'],
    ['ac-power', 'ac'],
    ['several-temperatures', null],
    ['impact-peak', null],
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
