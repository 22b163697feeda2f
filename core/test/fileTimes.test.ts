import { describe, expect, it } from 'vitest';
import { collectTable, fileTimes } from '../src/formats/index.ts';

/** Times that are given on for times that a file has, with the codes of what was said, by row. */
function through(written: readonly number[]) {
  const sink = collectTable();
  const times = fileTimes(sink);
  written.forEach((t, i) => times.take(i + 1, t, [i]));
  times.finish();
  const { found } = sink;
  return {
    times: found.times,
    rows: found.rows.map(([i]) => i),
    issues: found.issues.map(({ code, row }) => [code, row]),
    texts: found.issues.map((i) => i.text),
  };
}

describe('times of a file', () => {
  it('pass as they are while they run forwards, doubled ones too', () => {
    const { times, issues } = through([0, 1, 1, 2, 500, 501]);
    expect(times).toEqual([0, 1, 1, 2, 500, 501]);
    expect(issues).toEqual([]);
  });

  it.each([
    ['milliseconds', 2 ** 32 * 1e-3, 0.01],
    ['microseconds', 2 ** 32 * 1e-6, 0.0005],
  ])('go on where a counter of %s began anew, as often as it does', (unit, wrapS, stepS) => {
    const real = Array.from({ length: 40 }, (_, i) => wrapS - 20 * stepS + i * stepS);
    const again = real.map((t) => t + wrapS);
    const { times, issues, texts } = through([...real, ...again].map((t) => t % wrapS));
    expect(times).toHaveLength(80);
    [...real, ...again].forEach((t, i) => expect(times[i]).toBeCloseTo(t, 5));
    expect(issues).toEqual([
      ['wrapped', 21],
      ['wrapped', 61],
    ]);
    expect(texts[0]).toContain(`the ${unit} counter restarted: ${wrapS.toFixed(3)} s`);
  });

  it('go on after the clock was set back, as at the end of summer time, and say by how much', () => {
    const { times, rows, issues, texts } = through([7190, 7195, 7200, 3605, 3610, 3615]);
    expect(times).toEqual([7190, 7195, 7200, 7205, 7210, 7215]);
    expect(rows).toEqual([0, 1, 2, 3, 4, 5]);
    expect(issues).toEqual([['clock-set', 4]]);
    expect(texts[0]).toMatch(/jumps back by 3595\.000 s\. 3600\.000 s are added to all following times\./);
  });

  it('keep every reading around a leap second', () => {
    const tenth = (from: number, n: number) => Array.from({ length: n }, (_, i) => from + i / 10);
    const { times } = through([...tenth(86398, 30), ...tenth(86400, 30)]);
    expect(times).toHaveLength(60);
    times.slice(1).forEach((t, i) => expect(t - times[i]!).toBeCloseTo(0.1, 6));
  });

  it('leave out one row alone that comes too late', () => {
    const { times, issues } = through([1, 2, 0.5, 3, 4, 1]);
    expect(times).toEqual([1, 2, 3, 4]);
    expect(issues).toEqual([
      ['time-backwards', 3],
      ['time-backwards', 6],
    ]);
  });

  it('leave out one row alone that lies far ahead, and keep what follows', () => {
    const { times, issues } = through([1, 2, 1e11, 3, 4]);
    expect(times).toEqual([1, 2, 3, 4]);
    expect(issues).toEqual([['time-ahead', 3]]);
    expect(through([1, 2, 1e6, 1e6 + 1]).times).toEqual([1, 2, 1e6, 1e6 + 1]);
    expect(through([1, 2, 1e6]).times).toEqual([1, 2, 1e6]);
  });

  it('leave out what no calendar has', () => {
    const { times, issues } = through([1, 1e300, Number.NaN, 2]);
    expect(times).toEqual([1, 2]);
    expect(issues.map(([code]) => code)).toEqual(['no-time', 'no-time']);
  });
});
