import { describe, expect, it } from 'vitest';
import { referenceValue, staircaseOf, stepsOf } from '../src/references/index.ts';

describe('steps of a staircase', () => {
  it('are numbers apart by blanks, commas or semicolons, and down again with the highest once', () => {
    expect(stepsOf('5 10, 20;50', false)).toEqual([5, 10, 20, 50]);
    expect(stepsOf(' 0 5 10 ', true)).toEqual([0, 5, 10, 5, 0]);
  });

  it('are refused by name', () => {
    expect(() => stepsOf('5 ten', true)).toThrow('“ten” is not a valid step');
    expect(() => stepsOf('5 -1', true)).toThrow('“-1” is not a valid step');
    expect(() => stepsOf('5', true)).toThrow('at least two steps');
    expect(() => stepsOf(Array.from({ length: 30 }, (_, k) => k).join(' '), true)).toThrow('59 steps');
  });
});

describe('a staircase', () => {
  it('lays on masses of one make: each is good to the same share', () => {
    const { at, unit } = staircaseOf({ kind: 'mass', kilograms: 5, toleranceKg: 0.01 })!;
    expect(unit).toBe('kg');
    expect(at(20)).toEqual({ kind: 'mass', kilograms: 20, toleranceKg: 0.04 });
    const worth = [5, 10, 20].map((kg) => referenceValue(at(kg), 'kg'));
    expect(worth[2]!.uncertainty / worth[0]!.uncertainty).toBeCloseTo(4, 6);
  });

  it('keeps what else is known: gravity of the place, how well an end is set', () => {
    const weight = {
      kind: 'weight-force',
      kilograms: 0,
      toleranceKg: 0.02,
      latitudeDeg: 47,
      elevationM: 300,
    } as const;
    expect(staircaseOf(weight)!.at(10)).toEqual({ ...weight, kilograms: 10 });
    const rule = { kind: 'length', metres: 1, toleranceM: 0.001, placementM: 0.002 } as const;
    expect(staircaseOf(rule)!.at(0.5)).toEqual({ ...rule, metres: 0.5, toleranceM: 0.0005 });
  });

  it('is none of what nobody lays on in steps', () => {
    expect(staircaseOf({ kind: 'ice-slurry' })).toBeNull();
    expect(staircaseOf({ kind: 'instrument', reading: 20, uncertainty: 0.2 })).toBeNull();
  });
});
