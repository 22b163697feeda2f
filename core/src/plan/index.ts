export type { Part, SensorPart, BoardPart, DisplayPart } from './part.ts';
export { SENSORS, BOARDS, DISPLAYS } from './shelf.ts';
export { briefFaults, type BriefFault } from './briefFault.ts';
export {
  rankSensors,
  lineForSensor,
  WEIGHTS,
  compareCandidates,
  type ComparedCheck,
  type Weights,
  type Candidate,
  type PartVerdict,
  type FitState,
} from './feasibility.ts';
export { assignPins, freeAnalogPins, pinConflicts, type PinConflict } from './pins.ts';
export { expectedAt, expectedReadings, canExpectReadings, type ExpectedReading } from './bringUp.ts';
export { bestSeriesResistor, worstStep, type SeriesChoice } from './seriesChoice.ts';
export { TEMPLATES, thermistorLine, type GadgetTemplate } from './templates.ts';
export { cautionsFor, type Caution } from './cautions.ts';
export { contradiction, demandsOf, latency, trackingTopSpeed, type Demand } from './demands.ts';
export { solvePins, type BoardPin, type PinNeed, type PinSolution, type WayOut } from './pinSolver.ts';
export {
  assignAddresses,
  busLoad,
  levelProblems,
  pullUpRange,
  type AddressPlan,
  type BusDevice,
} from './bus.ts';
export {
  CURRENT_BANDS,
  currentPlausibility,
  powerBudget,
  runtimeByDuty,
  switchOnOrder,
  type PowerBudget,
  type PowerLoad,
  type Rail,
  type Supply,
} from './power.ts';
export { eSeriesBetween, inputFilter, nearestInSeries, selfHeating, type ESeries } from './inputFilter.ts';
export { partsCost, type CostResult, type PartLine } from './cost.ts';
export { environmentFindings, type Bears, type EnvironmentFinding } from './environment.ts';
