import { describe, expect, it } from 'vitest';
import { createGathering } from '../src/calibrate/index.ts';

/** Rows at some rate, from a moment on. */
const rows = (count: number, hz: number, fromS = 0) => ({
  times: Array.from({ length: count }, (_, i) => fromS + (i + 1) / hz),
  columns: [0, 1, 2].map((k) => Array.from({ length: count }, (_, i) => 10 * i + k)),
});

describe('what is gathered while something is done', () => {
  it('is the same however it is cut, and each row counts once', () => {
    const { times, columns } = rows(3000, 200);
    const whole = createGathering(3, 0);
    whole.take(times, columns);
    const cut = createGathering(3, 0);
    for (let i = 0; i < 3000; i += 137) {
      // Each piece begins a little before where the last one ended, as a look back at a history does.
      const [from, to] = [Math.max(0, i - 20), i + 137];
      cut.take(
        times.slice(from, to),
        columns.map((c) => c.slice(from, to)),
      );
    }
    expect(cut.gathered).toEqual(whole.gathered);
    expect(whole.gathered).toMatchObject({
      rows: 3000,
      sums: [0, 1, 2].map((k) => (3000 * 29_990) / 2 + 3000 * k),
    });
    // Fifty a second of two hundred are kept.
    expect(whole.gathered.cloud.length).toBeGreaterThan(740);
    expect(whole.gathered.cloud.length).toBeLessThan(760);
  });

  it('leaves out what was before the start, and what came while it was stopped', () => {
    const { times, columns } = rows(100, 10);
    const gathering = createGathering(3, 5);
    gathering.take(times, columns);
    expect(gathering.gathered.rows).toBe(50);
    gathering.goOn(12);
    const later = rows(100, 10, 10);
    gathering.take(later.times, later.columns);
    expect(gathering.gathered.rows).toBe(50 + 80);
  });

  it('keeps the newest of many, and no row that lacks a column', () => {
    const { times, columns } = rows(6000, 50);
    columns[1]![5999] = Number.NaN;
    const gathering = createGathering(3, 0);
    gathering.take(times, columns);
    const { cloud, rows: count } = gathering.gathered;
    expect([cloud.length, count, cloud.at(-1)![0]]).toEqual([4000, 5999, 10 * 5998]);
  });
});
