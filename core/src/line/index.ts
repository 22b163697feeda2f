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
} from './stage.ts';
export { stageKind, stagesThatFit } from './registry.ts';
export {
  compileLine,
  BLOCK_SAMPLES,
  type CompiledLine,
  type CompiledStage,
  type LineRun,
} from './compile.ts';
export { runLine, singleLane, type Taps } from './runLine.ts';
export { valuesAtRest, readingAtRest, slopeAtRest } from './atRest.ts';
export { invertLine } from './invert.ts';
export { editLine } from './edits.ts';
export { filterTraits, priceOfFilter, type FilterTraits, type EventPrice } from './filterTraits.ts';
export { lineUncertainty, type CalibrationCovariance, type StageReading } from './uncertainty.ts';
export { emitLineHeader } from './emitC.ts';
