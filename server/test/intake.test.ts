import { describe, expect, it } from 'vitest';
import { Health } from '../src/capture/health.ts';
import { Intake, type IncomingReading } from '../src/capture/intake.ts';

function bench({ orderWindowS = 0, rateHz = 10, speed = 1 } = {}) {
  const given: number[] = [];
  const remarks: string[] = [];
  const intake = new Intake(
    { rateHz, orderWindowS, speed: () => speed },
    { accept: (t) => given.push(Number(t.toFixed(6))), remark: (code) => remarks.push(code) },
  );
  const take = (timeS: number | null, sequence: number | null, arrivalS: number) =>
    intake.take({ timeS, sequence, values: [1] } satisfies IncomingReading, arrivalS);
  return { intake, given, remarks, take };
}

describe('Intake', () => {
  it('gives readings without a time the time of their arrival', () => {
    const { given, take } = bench();
    for (const at of [100, 100.1, 100.25]) take(null, null, at);
    expect(given).toEqual([0, 0.1, 0.25]);
  });

  it('drops what comes twice, and counts what is missing by its number', () => {
    const { intake, given, take } = bench();
    for (const [i, n] of [7, 8, 8, 9, 12, 12, 13].entries()) take(n / 10, n, 50 + i / 10);
    expect(given).toEqual([0.7, 0.8, 0.9, 1.2, 1.3]);
    expect(intake).toMatchObject({ duplicated: 2, lost: 2 });
  });

  it('counts what is missing by the gadget’s own pace where there are no numbers', () => {
    const { intake, take } = bench({ rateHz: 10 });
    // Half the pace of the brief: nothing is lost by that.
    for (let i = 0; i < 40; i++) take(i / 5, null, i / 5);
    const before = intake.lost;
    for (let i = 45; i < 60; i++) take(i / 5, null, i / 5);
    expect(intake.lost - before).toBe(5);
    expect(1 / intake.periodS).toBeCloseTo(5, 6);
  });

  it('puts overtaken readings in order within the window, and tells those that come later', () => {
    const { intake, given, take } = bench({ orderWindowS: 1 });
    for (const [n, at] of [
      [1, 0],
      [3, 0.1],
      [2, 0.2],
      [4, 0.3],
    ] as const)
      take(n / 10, n, at);
    expect(given).toEqual([]);
    expect(intake.held).toBe(4);
    intake.flush(2);
    expect(given).toEqual([0.1, 0.2, 0.3, 0.4]);
    expect(intake.lost).toBe(0);
    take(0.9, 9, 2.1);
    intake.flush(5);
    expect(take(0.6, 6, 5.1)).toBe('late');
    expect(given).toEqual([0.1, 0.2, 0.3, 0.4, 0.9]);
    expect(intake).toMatchObject({ late: 1, lost: 4 });
  });

  it('takes an hour of back-fill at once after an outage', () => {
    const { intake, given, remarks, take } = bench({ orderWindowS: 1 });
    take(0, 0, 0);
    for (let n = 1; n <= 36_000; n++) take(n / 10, n, 3600 + n / 1e5);
    intake.flush(1e9);
    expect(given).toHaveLength(36_001);
    expect(given.at(-1)).toBe(3600);
    expect(intake).toMatchObject({ lost: 0, late: 0, duplicated: 0 });
    expect(remarks).toEqual([]);
  });

  it('goes on when the gadget begins anew, with numbers and without', () => {
    for (const numbered of [true, false]) {
      const { intake, given, remarks, take } = bench();
      for (let n = 0; n < 50; n++) take(n / 10, numbered ? n : null, n / 10);
      for (let n = 0; n < 20; n++) take(n / 10, numbered ? n : null, 7 + n / 10);
      expect(remarks).toEqual(['restarted']);
      expect(given.every((t, i) => i === 0 || t > given[i - 1]!)).toBe(true);
      expect(given.at(-1)).toBeCloseTo(7 + 1.9, 0);
      expect(given).toHaveLength(70);
      expect(intake.late).toBe(0);
    }
  });

  it.each([-3600, 3600, 1.8e9])('goes on when the gadget’s clock is set by %d s', (by) => {
    const { given, remarks, take } = bench();
    const start = 1.7e9;
    for (let n = 0; n < 50; n++) take(start + n / 10, n, n / 10);
    for (let n = 50; n < 100; n++) take(start + by + n / 10, n, n / 10);
    expect(remarks).toEqual(['clock-set']);
    expect(given).toHaveLength(100);
    given.forEach((t, i) => expect(t).toBeCloseTo(start + i / 10, 3));
  });

  it.each([
    ['milliseconds', 2 ** 32 / 1e3],
    ['microseconds', 2 ** 32 / 1e6],
  ])('goes on where a counter of 32 bits of %s begins anew, with nothing lost', (_unit, wrapS) => {
    for (const orderWindowS of [0, 1]) {
      const { intake, given, remarks, take } = bench({ orderWindowS });
      const start = wrapS - 3.05;
      const order = Array.from({ length: 80 }, (_, n) => n);
      // Over a network one of before the end comes after it.
      if (orderWindowS > 0) [order[30], order[31]] = [31, 30];
      order.forEach((n, i) => take((start + n / 10) % wrapS, null, i / 10));
      intake.flush(1e9);
      expect(remarks).toEqual(['wrapped']);
      expect(given).toHaveLength(80);
      given.forEach((t, n) => expect(t).toBeCloseTo(start + n / 10, 4));
    }
  });

  it('makes no gap of a clock that is set half a minute ahead, and keeps one that there was', () => {
    const ahead = bench();
    for (let n = 0; n < 100; n++) ahead.take(n / 10 + (n < 70 ? 0 : 30), null, n / 10);
    expect(ahead.remarks).toEqual(['clock-set']);
    ahead.given.forEach((t, n) => expect(t).toBeCloseTo(n / 10, 6));
    const away = bench({ orderWindowS: 1 });
    for (let n = 0; n < 70; n++) away.take(n / 10, null, n / 10);
    // Held up by an outage, half of it lost.
    for (let n = 200; n < 400; n++) away.take(n / 10, null, 40 + n / 1e5);
    for (let n = 401; n < 500; n++) away.take(n / 10, null, n / 10);
    away.intake.flush(1e9);
    expect(away.remarks).toEqual([]);
    expect(away.given).toHaveLength(369);
  });

  it('takes several readings of one stamp as one, and no restart', () => {
    const { intake, given, remarks, take } = bench();
    for (let n = 0; n < 60; n++) take(Math.floor(n / 10), null, n / 10);
    expect(given).toEqual([0, 1, 2, 3, 4, 5]);
    expect(remarks).toEqual([]);
    expect(intake).toMatchObject({ duplicated: 54, late: 0 });
  });

  it('does not take one stray reading for a restart', () => {
    const { intake, given, remarks, take } = bench();
    for (let n = 0; n < 30; n++) take(n / 10, null, n / 10);
    take(0.5, null, 3);
    for (let n = 30; n < 40; n++) take(n / 10, null, n / 10 + 0.05);
    expect(remarks).toEqual([]);
    expect(given).toHaveLength(40);
    expect(intake.late).toBe(1);
  });

  it('lets simulated time run faster than the clock', () => {
    const { remarks, take } = bench({ speed: 50 });
    for (let n = 0; n < 200; n++) take(n * 70, null, n * 1.4);
    expect(remarks).toEqual([]);
  });
});

describe('Health', () => {
  it('tells rate, gaps and columns that stand still', () => {
    const health = new Health(2, 0);
    for (let i = 0; i < 150; i++) health.took(i * 100, i / 10, [i % 7, 512]);
    expect(health.rateHz(14_950)).toBeCloseTo(10, 0);
    expect(health.stuck(14_950)).toEqual([1]);
    expect(health.gaps).toBe(0);
    health.took(20_000, 20, [1, 511]);
    expect(health).toMatchObject({ gaps: 1 });
    expect(health.stuck(20_000)).toEqual([]);
    expect(health.silentMs(23_000)).toBe(3000);
  });

  it('tells the scatter of arrivals apart from a clock that runs behind', () => {
    const health = new Health(1, 0);
    // The gadget's second is 1 % too long, and every other reading comes 4 ms late.
    for (let i = 0; i < 300; i++) health.took(i * 101 + (i % 2) * 4, i / 10, [i]);
    expect(health.jitterMs).toBeCloseTo(2, 0);
    expect(health.clockBehindS).toBeGreaterThan(0.09);
    const plain = new Health(1, 0);
    for (let i = 0; i < 300; i++) plain.took(i * 100, null, [i]);
    expect(plain).toMatchObject({ jitterMs: null, clockBehindS: null });
  });
});
