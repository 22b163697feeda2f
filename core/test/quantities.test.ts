import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  addQuantities,
  combineQuantities,
  combinedUnits,
  difference,
  integralUnit,
  parseQuantity,
  point,
  quantityIn,
  ratePerSecondUnit,
  subtractQuantities,
  UNIT_IDS,
  UNITS,
  unitNamed,
  type UnitId,
} from '../src/units/index.ts';

describe('what people type', () => {
  it.each<[string, UnitId | undefined, number, UnitId | null]>([
    ['170 mA', undefined, 170, 'mA'],
    ['170 mA', 'A', 0.17, 'A'],
    ['4k7', undefined, 4700, 'ohm'],
    ['4k7', 'kohm', 4.7, 'kohm'],
    ['3R3', 'ohm', 3.3, 'ohm'],
    ['100n', undefined, Number.NaN, null],
    ['2n2', 'nF', 2.2, 'nF'],
    ['1M5', 'ohm', 1.5e6, 'ohm'],
    ['1/4 in', 'mm', 6.35, 'mm'],
    ['2 1/2 in', 'in', 2.5, 'in'],
    ['2,5', 'mm', 2.5, 'mm'],
    ['1,234.5', undefined, 1234.5, null],
    ['1.2e-3 V', 'mV', 1.2, 'mV'],
    ['−4 °C', 'degC', -4, 'degC'],
    ['- 4 degC', 'degC', -4, 'degC'],
    ['212 °F', 'degC', 100, 'degC'],
    ['10 kΩ', 'ohm', 10000, 'ohm'],
    ['10 kohm', 'ohm', 10000, 'ohm'],
    ['25 %', '1', 0.25, '1'],
    ['5 g', 'kg', 0.005, 'kg'],
    ['5 g', 'mps2', 49.03325, 'mps2'],
    ['60 km/h', 'mps', 16.6666667, 'mps'],
    ['1500 rpm', 'Hz', 25, 'Hz'],
    ['30 psi', 'bar', 2.0684272, 'bar'],
    ['22 µF', 'uF', 22, 'uF'],
    ['3 HR', 's', 10800, 's'],
    ['.5', 'V', 0.5, 'V'],
  ])('%s in a field of %s', (text, expected, value, unit) => {
    const parsed = parseQuantity(text, expected);
    if (Number.isNaN(value)) return expect(typeof parsed).toBe('string');
    if (typeof parsed === 'string') throw new Error(parsed);
    expect(parsed.value).toBeCloseTo(value, 6);
    expect(parsed.unit).toBe(unit);
  });

  it.each<[string, UnitId | undefined, RegExp]>([
    ['', 'V', /Enter a number/],
    ['warm', 'degC', /Enter a number with a unit/],
    ['5 parsecs', 'm', /Unknown unit “parsecs”. Use m, µm, mm/],
    ['5 V', 'A', /is in a unit of voltage, but this field needs current/],
    ['1.2.3', 'V', /not a valid number/],
    ['1,2,3', 'V', /ambiguous commas and points/],
    ['1/0 in', 'in', /division by zero/],
    ['4k7 V', 'ohm', /is in a unit of voltage/],
  ])('%j is refused with the way out', (text, expected, message) =>
    expect(parseQuantity(text, expected)).toMatch(message),
  );

  it('reads back whatever is printed with any unit', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...UNIT_IDS.filter((id) => id !== '1')),
        fc.double({ min: -1e9, max: 1e9, noNaN: true }),
        (unit, v) => {
          const parsed = parseQuantity(`${v} ${UNITS[unit].symbol}`, unit);
          if (typeof parsed === 'string') throw new Error(parsed);
          expect(parsed.unit).toBe(unit);
          expect(Math.abs(parsed.value - v)).toBeLessThanOrEqual(1e-9 * Math.abs(v));
        },
      ),
    );
  });

  it('does not mistake milli for mega, nor metre for minute', () => {
    expect([unitNamed('mW'), unitNamed('m'), unitNamed('min'), unitNamed('M'), unitNamed('Mohm')]).toEqual([
      'mW',
      'm',
      'min',
      'Mohm',
      'Mohm',
    ]);
    expect([unitNamed('MW'), unitNamed('n'), unitNamed('MA')]).toEqual([undefined, undefined, undefined]);
    expect([unitNamed('v'), unitNamed('KHZ'), unitNamed('Kg')]).toEqual(['V', 'kHz', 'kg']);
    expect(unitNamed('nonsense')).toBeUndefined();
  });
});

describe('quantities', () => {
  it('keep points and differences of temperature apart', () => {
    expect(addQuantities(point(20, 'degC'), difference(9, 'degF')).value).toBeCloseTo(25, 9);
    expect(addQuantities(difference(5, 'degC'), point(50, 'degF'))).toMatchObject({
      kind: 'point',
      value: expect.closeTo(15, 9),
    });
    expect(subtractQuantities(point(100, 'degC'), point(32, 'degF'))).toMatchObject({
      kind: 'difference',
      value: expect.closeTo(100, 9),
    });
    expect(subtractQuantities(point(20, 'degC'), difference(1, 'K')).value).toBeCloseTo(19, 9);
    expect(quantityIn(difference(1, 'degC'), 'degF').value).toBeCloseTo(1.8, 9);
    expect(() => addQuantities(point(20, 'degC'), point(30, 'degC'))).toThrow(
      /Two temperatures cannot be added/,
    );
    expect(() => addQuantities(point(1, 'V'), difference(1, 'A'))).toThrow(/volt/);
  });

  it('multiply and divide by dimension', () => {
    expect(combineQuantities(point(12, 'V'), point(500, 'mA'), '*', 'W').value).toBeCloseTo(6, 12);
    expect(combineQuantities(point(5, 'V'), point(10, 'mA'), '/', 'ohm').value).toBeCloseTo(500, 9);
    expect(combineQuantities(point(2, 'kg'), point(9.80665, 'mps2'), '*', 'N').value).toBeCloseTo(19.6133, 9);
    expect(combineQuantities(point(1, 'Ah'), point(3.7, 'V'), '*', 'Wh').value).toBeCloseTo(3.7, 12);
    expect(() => combineQuantities(point(1, 'V'), point(1, 'A'), '*', 'ohm')).toThrow(
      /does not give resistance.*Use/,
    );
    expect(() => combineQuantities(point(20, 'degC'), point(2, '1'), '*', 'K')).toThrow(
      /Convert it to kelvin/,
    );
    expect(combinedUnits('m', 's', true)).toContain('kmh');
  });

  it('know rates and integrals, each the other way round', () => {
    for (const unit of UNIT_IDS) {
      const rate = ratePerSecondUnit(unit);
      if (rate && unit !== 'K') expect(integralUnit(rate)).toBe(unit);
    }
    expect(ratePerSecondUnit('house')).toBeUndefined();
  });
});
