import { AIR_SENSORS } from './air.ts';
import { DISTANCE_SENSORS } from './distance.ts';
import { ELECTRIC_SENSORS } from './electric.ts';
import { FORCE_SENSORS } from './force.ts';
import { GAS_SENSORS } from './gas.ts';
import { LIGHT_SENSORS } from './light.ts';
import { MOTION_SENSORS } from './motion.ts';
import { PLACE_SENSORS } from './place.ts';
import { TEMPERATURE_SENSORS } from './temperature.ts';
import { TURNING_SENSORS } from './turning.ts';

/** Generic sensors, described by kind. Figures are typical of the kind, taken from no one data sheet. */
export const SENSORS = [
  ...TEMPERATURE_SENSORS,
  ...GAS_SENSORS,
  ...DISTANCE_SENSORS,
  ...MOTION_SENSORS,
  ...ELECTRIC_SENSORS,
  ...LIGHT_SENSORS,
  ...FORCE_SENSORS,
  ...TURNING_SENSORS,
  ...PLACE_SENSORS,
  ...AIR_SENSORS,
];
