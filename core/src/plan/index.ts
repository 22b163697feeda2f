export type { Part, SensorPart, BoardPart, DisplayPart } from './part.ts';
export { SENSORS, BOARDS, DISPLAYS } from './shelf.ts';
export { briefFaults, type BriefFault } from './briefFault.ts';
export {
  rankSensors,
  lineForSensor,
  WEIGHTS,
  type Candidate,
  type PartVerdict,
  type FitState,
} from './feasibility.ts';
export { assignPins, freeAnalogPins, pinConflicts, type PinConflict } from './pins.ts';
export { expectedReadings, canExpectReadings, type ExpectedReading } from './bringUp.ts';
export { bestSeriesResistor, worstStep, type SeriesChoice } from './seriesChoice.ts';
export { TEMPLATES, thermistorLine, type GadgetTemplate } from './templates.ts';
export { cautionsFor, type Caution } from './cautions.ts';
