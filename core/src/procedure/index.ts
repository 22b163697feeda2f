export { checkProcedure, step, type Condition, type Procedure, type Step } from './spec.ts';
export {
  runProcedure,
  type ProcedureEvent,
  type ProcedureState,
  type RunningProcedure,
} from './runProcedure.ts';
export { CHEMISTRIES, EMPTY_V, slotState, type Chemistry, type SlotState } from './cells.ts';
export { cellProcedure, exposureProcedure, sixRestsProcedure, staircaseProcedure } from './procedures.ts';
export { analyseCell, type CellAnalysis, type CellRecord } from './analyseCell.ts';
