import { describe, expect, it } from 'vitest';
import type { ReferenceInput } from '../src/model/calibration.ts';
import {
  bearingDeg,
  boilingPointC,
  instrumentFor,
  localGravity,
  referencesFor,
  referenceValue,
  startReference,
  standardPressureHpa,
  waterDensity,
} from '../src/references/index.ts';
import { UNITS, type UnitId } from '../src/units/index.ts';

describe('referenceValue', () => {
  it('knows ice', () => {
    expect(referenceValue({ kind: 'ice-slurry' }, 'degC')).toMatchObject({
      value: 0,
      uncertainty: 0.1,
      unit: 'degC',
    });
  });

  it('trusts a barometer more than an elevation', () => {
    const byElevation = referenceValue({ kind: 'boiling-elevation', elevationM: 640 }, 'degC');
    const byBarometer = referenceValue(
      { kind: 'boiling-pressure', pressureHpa: 938.7, uncertaintyHpa: 1 },
      'degC',
    );
    expect(byElevation.value).toBeCloseTo(97.85, 2);
    expect(byBarometer.value).toBeCloseTo(97.85, 2);
    expect(byElevation.uncertainty).toBeGreaterThan(0.4);
    expect(byBarometer.uncertainty).toBeLessThan(0.12);
    expect(byBarometer.workings.join(' ')).toMatch(/0\.029\d °C per hPa/);
  });

  it('takes another instrument at its word, in the unit of the reading', () => {
    expect(referenceValue({ kind: 'instrument', reading: 122.1, uncertainty: 0.4 }, 'degF')).toMatchObject({
      value: 122.1,
      unit: 'degF',
      uncertainty: 0.4,
    });
  });

  it('refuses a pressure or elevation outside its physics, and says what to enter', () => {
    expect(() => boilingPointC(1500)).toThrow(
      /from 300 to 1100 hPa; received 1500 hPa\. Use the station pressure/,
    );
    expect(() => boilingPointC(Number.NaN)).toThrow(/received NaN/);
    expect(() => standardPressureHpa(20000)).toThrow(/received 20000 m\. .*enter the pressure/);
  });
});

describe('what other references are worth', () => {
  it.each<[ReferenceInput, UnitId, number, number]>([
    [{ kind: 'meter', reading: 12, percentOfReading: 0.5, digits: 2, resolution: 0.01 }, 'V', 12, 0.0925],
    [{ kind: 'mass', kilograms: 2, toleranceKg: 0.002 }, 'kg', 2, 0.00233],
    [
      { kind: 'weight-force', kilograms: 10, toleranceKg: 0, latitudeDeg: 45, elevationM: 0 },
      'N',
      98.062,
      0.0178,
    ],
    [{ kind: 'length', metres: 1.5, toleranceM: 0.0005, placementM: 0.0005 }, 'mm', 1.5, 0.001],
    [{ kind: 'stopwatch', seconds: 60, reactionS: 0.1 }, 's', 60, 0.283],
    [{ kind: 'tally', count: 120, doubt: 1, seconds: 60, reactionS: 0.1 }, 'rpm', 2, 0.0214],
    [{ kind: 'crystal', seconds: 86400, ppm: 20 }, 's', 86400, 1.995],
    [{ kind: 'nothing', within: 0.02, what: 'Load off' }, 'A', 0, 0.02],
    [
      {
        kind: 'dilution',
        stock: 200,
        stockPercent: 1,
        steps: [{ taken: 5, madeUpTo: 50, takenPercent: 0.6, madeUpPercent: 0.2 }],
      },
      'mgL',
      20,
      0.273,
    ],
  ])('%j', (input, unit, value, uncertainty) => {
    const worth = referenceValue(input, unit);
    expect(worth.value).toBeCloseTo(value, 2);
    expect(worth.uncertainty / uncertainty).toBeCloseTo(1, 2);
    expect(worth.workings.length).toBeGreaterThan(0);
  });

  it('weighs water by its density: a litre at 20 degrees is 997 g in air', () => {
    expect(waterDensity(20)).toBeCloseTo(998.207, 3);
    expect(waterDensity(4)).toBeCloseTo(999.975, 3);
    expect(waterDensity(60)).toBeCloseTo(983.2, 1);
    const worth = referenceValue({ kind: 'water', litres: 1, toleranceLitres: 0.01, waterC: 20 }, 'kg');
    expect(worth.value).toBeCloseTo(0.9972, 4);
    expect(() => waterDensity(95)).toThrow(/0 to 90 °C; received 95/);
  });

  it('knows gravity at the equator, the poles and up a hill', () => {
    expect(localGravity(0, 0)).toBeCloseTo(9.7803, 4);
    expect(localGravity(90, 0)).toBeCloseTo(9.8322, 4);
    expect(localGravity(45, 1000) - localGravity(45, 0)).toBeCloseTo(-0.003086, 9);
    expect(() => localGravity(91, 0)).toThrow(/received 91/);
  });

  it('takes bearings along the great circle and refuses a landmark too near', () => {
    const here = { latitudeDeg: 50, longitudeDeg: 10 };
    expect(bearingDeg(here, { latitudeDeg: 51, longitudeDeg: 10 })).toBeCloseTo(0, 9);
    expect(bearingDeg({ latitudeDeg: 0, longitudeDeg: 10 }, { latitudeDeg: 0, longitudeDeg: 9 })).toBeCloseTo(
      270,
      9,
    );
    const near: ReferenceInput = { kind: 'bearing', from: here, to: here, positionM: 5 };
    expect(() => referenceValue(near, 'deg')).toThrow(
      /its bearing cannot be determined. Choose a more distant landmark/,
    );
    const far = referenceValue(
      { kind: 'bearing', from: here, to: { latitudeDeg: 50.01, longitudeDeg: 10.01 }, positionM: 5 },
      'deg',
    );
    expect(far.value).toBeCloseTo(32.7, 1);
    expect(far.uncertainty).toBeLessThan(0.4);
  });

  it('refuses a dilution turned upside down and a reference of another quantity', () => {
    const wrong: ReferenceInput = {
      kind: 'dilution',
      stock: 1,
      stockPercent: 0,
      steps: [{ taken: 50, madeUpTo: 5, takenPercent: 0, madeUpPercent: 0 }],
    };
    expect(() => referenceValue(wrong, 'mgL')).toThrow(/must be smaller than the final volume/);
    expect(() => referenceValue({ kind: 'mass', kilograms: 1, toleranceKg: 0 }, 'degC')).toThrow(
      /is a reference for mass, but this channel measures temperature/,
    );
  });
});

describe('the references offered', () => {
  const place = { name: 'x', elevationM: 640, pressureHpa: null };
  it('suit the reading: each starts with figures that give a worth in its quantity', () => {
    for (const unit of [
      'degC',
      'degF',
      'N',
      'kg',
      'mm',
      's',
      'V',
      'mA',
      'abs',
      'deg',
      'ppm',
      'rpm',
      'W',
    ] as const) {
      if (!(unit in UNITS)) continue;
      const offered = referencesFor(unit as UnitId);
      expect(offered.at(-1)!.kind).toBe('instrument');
      for (const { kind } of offered) {
        const worth = referenceValue(startReference(kind, unit as UnitId, place), unit as UnitId);
        expect(UNITS[worth.unit].dimension).toBe(UNITS[unit as UnitId].dimension);
        expect(worth.uncertainty).toBeGreaterThan(0);
      }
    }
  });
  it('take the place for granted where it matters', () => {
    expect(startReference('boiling-elevation', 'degC', place)).toEqual({
      kind: 'boiling-elevation',
      elevationM: 640,
    });
    expect(startReference('boiling-pressure', 'degC', { ...place, pressureHpa: 951 })).toMatchObject({
      pressureHpa: 951,
    });
    expect(startReference('nothing', 'N', place)).toMatchObject({ what: 'No load' });
  });
});

describe('the instrument beside a channel', () => {
  const dose = (column: string, value: number) => ({
    title: `Dose at ${column}`,
    value,
    unit: 'ppm' as const,
    uncertainty: 0.5,
    column,
  });
  it('is that beside its own column, of those of its quantity', () => {
    const all = [dose('gas1', 0), dose('gas2', 25)];
    expect(instrumentFor(all, 'ppm', ['gas2'])?.value).toBe(25);
    expect(instrumentFor(all, 'ppm', ['gas9'])).toBeNull();
    expect(instrumentFor(all, 'degC', ['gas2'])).toBeNull();
  });
  it('or one that tells of all, in the unit of the channel', () => {
    const meter = { title: 'Meter', value: 1.5, unit: 'V' as const, uncertainty: 0.01 };
    expect(instrumentFor([meter], 'mV', ['v'])).toMatchObject({ value: 1500, unit: 'mV', uncertainty: 10 });
  });
});
