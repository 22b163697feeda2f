import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  convertDifference,
  convertUnit,
  decimalsFor,
  printConstant,
  printNumber,
  printSignificant,
  printWithin,
  printWithUncertainty,
  printWorth,
  UNIT_IDS,
  UNITS,
  unitsOf,
} from '../src/units/index.ts';

describe('convertUnit', () => {
  it.each([
    [100, 'degC', 'degF', 212],
    [-40, 'degF', 'degC', -40],
    [0, 'K', 'degC', -273.15],
    [12.73, 'kohm', 'ohm', 12730],
    [938.7, 'hPa', 'Pa', 93870],
    [250, 'mV', 'V', 0.25],
  ] as const)('%d %s is so many %s', (value, from, to, expected) => {
    expect(convertUnit(value, from, to)).toBeCloseTo(expected, 9);
  });

  it('treats a difference of temperatures without the shift of the scale', () => {
    expect(convertDifference(1, 'degC', 'degF')).toBeCloseTo(1.8, 12);
    expect(convertDifference(1, 'degC', 'K')).toBe(1);
  });

  it('refuses units of another dimension and says which', () => {
    expect(() => convertUnit(1, 'V', 'ohm')).toThrow(/volt to ohm.*voltage.*resistance/);
  });

  it('comes back to where it started, for every pair of one dimension', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...UNIT_IDS),
        fc.nat(50),
        fc.double({ min: -1e6, max: 1e6, noNaN: true }),
        (from, pick, value) => {
          const peers = unitsOf(UNITS[from].dimension);
          const to = peers[pick % peers.length]!;
          const back = convertUnit(convertUnit(value, from, to), to, from);
          expect(Math.abs(back - value)).toBeLessThanOrEqual(1e-9 * Math.max(1, Math.abs(value)));
        },
      ),
    );
  });
});

describe('printing', () => {
  it.each([
    [0.312, 2],
    [0.0996, 2],
    [0.00095, 5],
    [12, 0],
    [1.02, 1],
    [0, 0],
    [Number.NaN, 0],
  ])('uncertainty %d deserves %d decimals', (u, decimals) => {
    expect(decimalsFor(u)).toBe(decimals);
  });

  it('prints value and uncertainty to the same place', () => {
    expect(printWithUncertainty(19.7149, 0.312, 'degC')).toEqual({
      value: '19.71',
      uncertainty: '0.31',
      symbol: '°C',
    });
    expect(printWithUncertainty(12733, 94, 'ohm')).toEqual({
      value: '12733',
      uncertainty: '94',
      symbol: 'Ω',
    });
  });

  it('prints a value and what it is worth to the same place', () => {
    expect(printWithin(0.62, 0.033)).toBe('0.620 ±0.033');
    expect(printWithin(-32.34, 0.534)).toBe('−32.34 ±0.53');
    expect(printWithin(1234.5, 120)).toBe('1235 ±120');
    expect(printWithin(0.004, 0.3, true)).toBe('0.00 ±0.30');
    expect(printWithin(2.5, 0.3, true)).toBe('+2.50 ±0.30');
    for (const unknown of [0, Number.NaN, Infinity]) expect(printWithin(0.61834, unknown)).toBe('0.618');
  });

  it('leaves the uncertainty empty when there is none', () => {
    expect(printWithUncertainty(3.14159, 0, 'V')).toEqual({ value: '3.142', uncertainty: '', symbol: 'V' });
  });

  it('writes a true minus, never a negative zero', () => {
    expect(printNumber(-1.25, 1)).toBe('\u22121.3');
    expect(printNumber(-0.004, 2)).toBe('0.00');
    expect(printNumber(0.31, 2, true)).toBe('+0.31');
    expect(printNumber(Number.NaN, 2)).toBe('–');
  });

  it('keeps significant digits and falls back to powers of ten', () => {
    expect(printSignificant(0.01234, 2)).toBe('0.012');
    expect(printSignificant(123456, 3)).toBe('123456');
    expect(printSignificant(0.0000123, 2)).toBe('1.2e\u22125');
    expect(printSignificant(9.999, 2)).toBe('10');
  });

  it('prints fitted constants of any size to what they are worth', () => {
    expect(printConstant(3432.17, 5.2)).toBe('3432.2');
    expect(printConstant(8.775468e-8, 2e-10)).toBe('8.775e\u22128');
    expect(printConstant(0.0011219, 2.3e-5)).toBe('0.001122');
  });
});

describe('what a value is worth, beside it', () => {
  it.each([
    [0.31, 1, '±0.31'],
    [0.011, 1, '±0.011'],
    [9.4e-6, 1, '±<0.001'],
    [9.4e-6, 5, '±9.4e\u22126'],
    [0.004, 0, '±<0.01'],
    [12, 0, '±12'],
  ])('%s beside %s decimals is "%s"', (u, decimals, text) => {
    expect(printWorth(u, decimals)).toBe(text);
  });
});
