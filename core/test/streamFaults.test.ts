import { writeFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { findStreamFaults, type StreamFinding } from '../src/prove/findStreamFaults.ts';
import { createWorld, FAMILIES, type SimulatedFamily } from '../src/simulate/index.ts';
import { withFaults, type Fault } from '../src/simulate/faults.ts';
import type { World } from '../src/simulate/world.ts';

// STREAM_SEEDS more of each world, as `npm run slips` does; a slice of them holds the marks.
const SEEDS = Number(process.env['STREAM_SEEDS'] ?? 2);

/** A column of a healthy world in one condition, once it is warm. */
interface Healthy {
  readonly family: SimulatedFamily;
  readonly condition: string;
  readonly values: readonly number[];
  readonly rateHz: number;
  readonly isCount: boolean;
  readonly restsAtZero: boolean;
}

/** Worlds in which something is wrong by themselves: a bouncing sensor, the sun or hands before the beam, more than can be seen. */
const BROKEN = ['glitches', 'bright', 'waving', 'too-fast', 'handling', 'run-down'];

function healthy(seed: number): Healthy[] {
  return FAMILIES.flatMap((family) => {
    const truth = family.draw(seed);
    const { sampleRateHz: rateHz } = family;
    const rows = Math.min(6000, Math.max(400, Math.round(60 * rateHz)));
    return createWorld(truth).conditions.flatMap(({ id }): Healthy[] => {
      if (BROKEN.includes(id)) return [];
      const world = createWorld(truth);
      world.setCondition(id);
      for (let i = 0; i < Math.min(24_000, 1200 * rateHz); i++) world.step(1 / rateHz);
      const isCount = world.columns[0] === 'edges';
      const values = Array.from({ length: rows }, () => world.step(1 / rateHz)[0]!);
      return [{ family, condition: id, values, rateHz, isCount, restsAtZero: family.family === 13 }];
    });
  });
}

function look(of: Healthy, rows: readonly (number | null)[], change: object = {}): StreamFinding[] {
  const kept = rows.flatMap((v, i) => (v === null ? [] : [[i / of.rateHz, v] as const]));
  return findStreamFaults({
    times: kept.map(([t]) => t),
    values: kept.map(([, v]) => v),
    codes: null,
    isCount: of.isCount,
    restsAtZero: of.restsAtZero,
    fromStart: true,
    neededHz: null,
    ...change,
  });
}

/** The column as it comes through a fault. */
function through({ values, rateHz }: Healthy, fault: Fault, seed: number): (number | null)[] {
  let i = 0;
  const played = { columns: ['c'], conditions: [], step: () => [values[i++]!] } as unknown as World;
  const broken = withFaults(played, [fault], seed);
  return values.map(() => broken.step(1 / rateHz)?.[0] ?? null);
}

const ends = (values: readonly number[]) => {
  const ordered = values.toSorted((a, b) => a - b);
  const at = (share: number) => ordered[Math.floor(share * (ordered.length - 1))]!;
  return { low: at(0), high: at(1), inner: at(0.9) - at(0.1), middle: at(0.5), at };
};

/** What never changes, adds up or rests at nothing cannot show that it is held. */
const isStill = ({ values, isCount, restsAtZero }: Healthy) =>
  isCount || restsAtZero || new Set(values).size < 3;

interface Case {
  readonly name: string;
  readonly id: StreamFinding['id'];
  /** The fault, where the column is such that it would show; null where nobody could see it. */
  fault(of: Healthy): Fault | null;
}

const CASES: readonly Case[] = [
  {
    name: 'drop-outs, 3 in 100',
    id: 'drop-outs',
    fault: () => ({ kind: 'drop-outs', share: 0.03 }),
  },
  {
    name: 'a converter five times too slow',
    id: 'slow-converter',
    fault: (of) => (isStill(of) ? null : { kind: 'slow-converter', rateHz: of.rateHz / 5 }),
  },
  {
    name: 'stuck half-way',
    id: 'stuck',
    fault: (of) =>
      isStill(of) ? null : { kind: 'stuck', column: 'c', afterS: of.values.length / of.rateHz / 2 },
  },
  {
    name: 'cut off below the end',
    id: 'clipping',
    fault(of) {
      const { low, high, at } = ends(of.values);
      // Noise that is cut off, or a tip that is there for an instant, is nobody's fault to see.
      return of.isCount || high - low < 300 || at(0.95) - at(0.5) < 0.25 * (high - low)
        ? null
        : { kind: 'clipping', column: 'c', low: -1e9, high: Math.round(at(0.9)) };
    },
  },
  {
    name: 'warm-up skipped',
    id: 'warm-up',
    fault(of) {
      const { inner, middle } = ends(of.values);
      return of.isCount || Math.abs(middle) < 100 || 0.15 * Math.abs(middle) < 2 * inner
        ? null
        : { kind: 'warm-up-skipped', column: 'c', excess: 0.15, settlesS: of.values.length / of.rateHz / 4 };
    },
  },
  {
    name: 'a loose magnet, 8 in 100',
    id: 'missed-edges',
    fault: (of) =>
      of.isCount && of.values.at(-1)! - of.values[0]! > 100
        ? { kind: 'loose-magnet', column: 'c', share: 0.08 }
        : null,
  },
];

describe('what is wrong with a stream of raw rows', () => {
  const worlds = Array.from({ length: SEEDS }, (_, k) => healthy(30 + k)).flat();

  it('is nothing in healthy worlds', () => {
    for (const of of worlds)
      expect(look(of, of.values), `family ${of.family.family}, ${of.condition}`).toEqual([]);
  });

  const rows: (string | number)[][] = [];
  it.each(CASES.map((c) => [c.name, c] as const))('is named: %s', (name, { id, fault }) => {
    let [trials, first, three] = [0, 0, 0];
    for (const [seed, of] of worlds.entries()) {
      const broken = fault(of);
      if (!broken) continue;
      const found = look(of, through(of, broken, seed));
      trials++;
      if (found[0]?.id === id) first++;
      if (found.slice(0, 3).some((f) => f.id === id)) three++;
    }
    rows.push([
      name,
      trials,
      `${Math.round((100 * first) / trials)} %`,
      `${Math.round((100 * three) / trials)} %`,
    ]);
    expect(trials).toBeGreaterThanOrEqual(name.includes('magnet') ? SEEDS : 8 * SEEDS);
    expect(first / trials).toBeGreaterThanOrEqual(0.9);
    expect(three / trials).toBeGreaterThanOrEqual(0.9);
    const file = process.env['STREAM_ROWS'];
    if (file && rows.length === CASES.length) writeFileSync(file, JSON.stringify(rows));
  });

  it('tells the end of the converter from an end before it, and a rate that is too low for the job', () => {
    const values = Array.from({ length: 2000 }, (_, i) =>
      Math.min(4095, Math.round(3000 + 2000 * Math.sin(i / 9))),
    );
    const times = values.map((_, i) => i / 100);
    const plain = { times, values, isCount: false, restsAtZero: false, fromStart: false, neededHz: null };
    expect(findStreamFaults({ ...plain, codes: [0, 4095] })[0]!.id).toBe('at-end');
    expect(findStreamFaults({ ...plain, codes: [0, 65_535] })[0]!.id).toBe('clipping');
    const [slow] = findStreamFaults({
      ...plain,
      values: values.map((v) => v % 97),
      codes: null,
      neededHz: 1000,
    });
    expect(slow!.id).toBe('too-slow');
    expect(slow!.seen).toContain('100 rows per second received, 1000 needed');
  });

  it('tells edges that are counted twice', () => {
    let count = 0;
    const values = Array.from({ length: 6000 }, (_, i) => {
      if (i % 12 === 0) count++;
      if (i % 120 === 2) count++;
      return count;
    });
    const told = findStreamFaults({
      times: values.map((_, i) => i / 100),
      values,
      codes: null,
      isCount: true,
      restsAtZero: false,
      fromStart: false,
      neededHz: null,
    });
    expect(told.map((f) => f.id)).toEqual(['doubled-edges']);
  });

  it('says nothing of few rows, nor of numbers that are none', () => {
    const few = { times: [0, 1, 2], values: [5, 5, 5], codes: null, isCount: false, restsAtZero: false };
    expect(findStreamFaults({ ...few, fromStart: true, neededHz: null })).toEqual([]);
    const none = Array.from({ length: 100 }, () => Number.NaN);
    expect(
      findStreamFaults({
        ...few,
        times: none.map((_, i) => i),
        values: none,
        fromStart: true,
        neededHz: null,
      }),
    ).toEqual([]);
  });
});
