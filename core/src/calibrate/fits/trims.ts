import { trim } from './trim.ts';

/** Single-constant trims: what is solved for, and what is taken for granted meanwhile. */
export const seriesResistor = trim({
  id: 'series-resistor',
  title: 'Solve series resistor',
  assumes: 'The sensor follows its data sheet; only the fixed resistor is not what its marking says.',
  stages: ['divider'],
  param: 'seriesOhm',
  name: 'Series resistor',
  unit: 'Ω',
  share: 0.01,
});

export const thermistorR0 = trim({
  id: 'thermistor-r0',
  title: 'Solve resistance at T0',
  assumes: 'The fixed resistor and beta are as marked; only this bead’s resistance at T0 is not.',
  stages: ['thermistor-beta'],
  param: 'r0Ohm',
  name: 'Resistance at T0',
  unit: 'Ω',
  share: 0.01,
});

export const cleanAirBaseline = trim({
  id: 'clean-air-baseline',
  title: 'Solve clean-air baseline',
  assumes: 'The element follows the slope of its curve; only its resistance in clean air is its own.',
  stages: ['ratio-to-baseline'],
  param: 'baseline',
  name: 'Baseline',
  unit: '',
  share: 0.01,
});

export const airTemperature = trim({
  id: 'air-temperature',
  title: 'Solve air temperature',
  assumes: 'Distances are right and the clock is right; only the air is warmer or colder than set.',
  stages: ['time-of-flight'],
  param: 'airC',
  name: 'Air temperature',
  unit: '°C',
  step: 1,
});

export const amplifierGain = trim({
  id: 'amplifier-gain',
  title: 'Solve amplifier gain',
  assumes:
    'The load cell’s rated output and capacity are as marked, and the tare is right; only the gain is not.',
  stages: ['bridge'],
  param: 'gain',
  name: 'Amplifier gain',
  unit: '',
  share: 0.01,
});

export const loadResistor = trim({
  id: 'load-resistor',
  title: 'Solve load resistor',
  assumes: 'The element follows its curve; only the load resistor is not what its marking says.',
  stages: ['load-resistor'],
  param: 'loadOhm',
  name: 'Load resistor',
  unit: 'Ω',
  share: 0.01,
});
