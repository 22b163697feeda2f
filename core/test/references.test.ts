import { describe, expect, it } from 'vitest';
import { boilingPointC, referenceValue, standardPressureHpa } from '../src/references/index.ts';

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
      /between 300 and 1100 hPa; received 1500 hPa\. Use the station pressure/,
    );
    expect(() => boilingPointC(Number.NaN)).toThrow(/received NaN/);
    expect(() => standardPressureHpa(20000)).toThrow(/received 20000 m\. Enter the pressure/);
  });
});
