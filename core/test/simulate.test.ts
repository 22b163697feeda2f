import { describe, expect, it } from 'vitest';
import { boardReader } from '../src/formats/index.ts';
import { boilingPointC } from '../src/references/index.ts';
import {
  boardHeader,
  boardLine,
  createWorld,
  randomThermistorTruth,
  threeTermsFromBeta,
} from '../src/simulate/index.ts';
import { steinhartHart } from '../src/stages/steinhartHart.ts';

const NOMINAL = {
  columns: ['p1', 'p2'],
  r0Ohm: 10000,
  betaK: 3950,
  seriesOhm: 3300,
  seriesSide: 'top' as const,
  adcBits: 10,
  elevationM: 640,
};
const truth = randomThermistorTruth(NOMINAL, 42);
const settle = (condition: string, dt: number, seconds: number, quiet = true) => {
  const world = createWorld(
    quiet ? { ...truth, probes: truth.probes.map((p) => ({ ...p, noiseCounts: 0 })) } : truth,
  );
  world.setCondition(condition);
  let counts: number[] = [];
  for (let t = 0; t < seconds; t += dt) counts = world.step(dt);
  return { world, counts };
};

describe('thermistor bank', () => {
  it('is the same for the same seed and another for another', () => {
    const run = (seed: number) => {
      const world = createWorld({ ...truth, seed });
      return Array.from({ length: 50 }, () => world.step(0.1));
    };
    expect(run(1)).toEqual(run(1));
    expect(run(1)).not.toEqual(run(2));
    expect(randomThermistorTruth(NOMINAL, 42)).toEqual(truth);
  });

  it('comes to the same rest however finely time is cut', () => {
    expect(settle('boiling', 0.1, 120).counts).toEqual(settle('boiling', 0.5, 120).counts);
  });

  it('gives the counts that its hidden constants say', () => {
    const { counts } = settle('boiling', 0.1, 200);
    truth.probes.forEach((probe, i) => {
      const ohm = steinhartHart.scalar!({ a: probe.a, b: probe.b, c: probe.c }).inverse!(
        boilingPointC(truth.pressureHpa),
      );
      expect(counts[i]).toBe(Math.round((1023 * ohm) / (ohm + probe.seriesOhm)));
    });
  });

  it('shows instruments that are right within what they claim', () => {
    const { world } = settle('ice', 0.1, 5);
    const [thermometer, barometer] = world.instruments();
    expect(Math.abs(thermometer!.value - truth.iceC)).toBeLessThanOrEqual(thermometer!.uncertainty);
    expect(Math.abs(barometer!.value - truth.pressureHpa)).toBeLessThanOrEqual(barometer!.uncertainty);
  });

  it('stays within the converter’s codes and prints lines that the reader takes', () => {
    const { world } = settle('kiln', 0.1, 10, false);
    const read = boardReader(world.columns);
    expect(read(boardHeader(world.columns))).toMatchObject({ kind: 'header' });
    // Two readings of a fast board half a millisecond apart keep their own instants.
    expect(read(boardLine(12.3005, world.step(0.1)))).toMatchObject({ timeS: 12.3005 });
    expect(read(boardLine(12.3, world.step(0.1)))).toMatchObject({ kind: 'reading', timeS: 12.3 });
  });

  it('refuses a condition it does not have', () => {
    expect(() => createWorld(truth).setCondition('lava')).toThrow(
      /Unknown condition “lava”\. Choose kiln, room, ice/,
    );
  });
});

describe('threeTermsFromBeta', () => {
  it('meets the beta curve in value and slope at 25 degC, and exactly everywhere without a bend', () => {
    const bent = steinhartHart.scalar!(threeTermsFromBeta(10000, 3950, 8e-8));
    const straight = steinhartHart.scalar!(threeTermsFromBeta(10000, 3950, 0));
    expect(bent.forward(10000)).toBeCloseTo(25, 9);
    expect(bent.derivative!(10000)).toBeCloseTo(straight.derivative!(10000), 9);
    expect(straight.forward(740.5854526751106)).toBeCloseTo(97.9, 9);
  });
});
