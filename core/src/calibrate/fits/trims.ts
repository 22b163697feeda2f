import { trim } from './trim.ts';

/** Single-constant trims: what is solved for, and what is taken for granted meanwhile. */
export const seriesResistor = trim({
  id: 'series-resistor',
  title: 'Fit series resistor',
  assumes: 'The sensor follows its datasheet; only the fixed resistor differs from its nominal value.',
  stages: ['divider'],
  param: 'seriesOhm',
  name: 'Series resistor',
  unit: 'Ω',
  share: 0.01,
});

export const thermistorR0 = trim({
  id: 'thermistor-r0',
  title: 'Fit resistance at T0',
  assumes: 'The fixed resistor and beta are nominal; only this thermistor’s resistance at T0 differs.',
  stages: ['thermistor-beta'],
  param: 'r0Ohm',
  name: 'Resistance at T0',
  unit: 'Ω',
  share: 0.01,
});

export const cleanAirBaseline = trim({
  id: 'clean-air-baseline',
  title: 'Fit clean-air baseline',
  assumes: 'The sensor follows the slope of its datasheet curve; only its resistance in clean air differs.',
  stages: ['ratio-to-baseline'],
  param: 'baseline',
  name: 'Baseline',
  unit: '',
  share: 0.01,
});

export const airTemperature = trim({
  id: 'air-temperature',
  title: 'Fit air temperature',
  assumes: 'Distances and clock are correct; only the air temperature differs from the setting.',
  stages: ['time-of-flight'],
  param: 'airC',
  name: 'Air temperature',
  unit: '°C',
  step: 1,
});

export const amplifierGain = trim({
  id: 'amplifier-gain',
  title: 'Fit amplifier gain',
  assumes:
    'The load cell’s rated output and capacity are nominal, and the tare is correct; only the gain differs.',
  stages: ['bridge'],
  param: 'gain',
  name: 'Amplifier gain',
  unit: '',
  share: 0.01,
});

export const loadResistor = trim({
  id: 'load-resistor',
  title: 'Fit load resistor',
  assumes: 'The sensor follows its datasheet curve; only the load resistor differs from its nominal value.',
  stages: ['load-resistor'],
  param: 'loadOhm',
  name: 'Load resistor',
  unit: 'Ω',
  share: 0.01,
});
