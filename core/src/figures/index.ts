export { FIGURES, figureKind } from './figureKinds.ts';
export type { FigureContext, FigureKind, FigureNow, FigureParams, FigureRole } from './kind.ts';
export { budgetWith, type Budget, type ReadingBudget, type SensorShare } from './budget.ts';
export { circularMeanOf } from './circular.ts';
export {
  createFigures,
  FigureError,
  type FigureReading,
  type Figures,
  type FiguresMemory,
} from './figures.ts';
