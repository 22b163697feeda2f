export {
  REASON,
  REASONS,
  LineError,
  UnitMismatch,
  type Block,
  type CWriter,
  type Lane,
  type LaneData,
  type PrepareContext,
  type Runner,
  type ScalarMap,
  type StageKind,
  type StageParams,
  type VectorMap,
} from '../stage/contract.ts';
export { stageKind, stagesThatFit } from './registry.ts';
export { compileLine, type CompiledLine, type CompiledStage } from './compile.ts';
export { BLOCK_SAMPLES } from './run.ts';
export type { LineMemory, LineRun } from './compiledLine.ts';
export { lanesOf, runLine, singleLane, type Tap } from './runLine.ts';
export { lanesAtRest, valuesAtRest, readingAtRest, slopeAtRest, type Raw } from './atRest.ts';
export { invertLanes, invertLine } from './invert.ts';
export { editLine } from './edits.ts';
export { paramAt, withParamAt } from './paramPath.ts';
export type { FilterTraits } from '../stage/stepTraits.ts';
export {
  filterTotals,
  hasFilterTraits,
  filterTraits,
  frequencyResponse,
  priceOfFilter,
  type EventPrice,
} from './filterTraits.ts';
export { zeroPhaseLane } from './zeroPhase.ts';
export { givesDirection } from './givesDirection.ts';
export {
  lineUncertainty,
  uncertaintyAlong,
  type CalibrationCovariance,
  type StageReading,
} from './uncertainty.ts';
export { largestLeftOver, leftOverAt, offAt } from './leftOver.ts';
export { leftOverBefore } from './leftOverBefore.ts';
export { MOVED_BY, waysOff, withWayOff, type WayOff } from './waysOff.ts';
export { emitLineHeader, type HeaderOptions } from './emitC.ts';
export { commentText, identifier, literal } from './cParts.ts';
export { emitLineExample } from './emitExample.ts';
export { idsIn } from '../stage/overStage.ts';
export { lineColumns } from './lineColumns.ts';
export { lineFromJson, lineToJson } from './lineFile.ts';
export { faultsByStage, stageFaults, type StageFaults } from './stageFaults.ts';
export { eventThrough, type EventThrough } from './eventThrough.ts';
export { adviseFilters, type Advice, type AdvisedStage, type FilterAdvice } from './advisor/adviseFilters.ts';
export { dataTraits, LEAST_READINGS, type DataTraits } from './advisor/dataTraits.ts';
