export { FIGURES, figureKind } from './figureKinds.ts';
export type {
  FigureContext,
  FigureKind,
  FigureNow,
  FigureParams,
  FigureRole,
  ReadingBudget,
} from './kind.ts';
export { circularMeanOf } from './circular.ts';
export {
  createFigures,
  FigureError,
  type FigureReading,
  type Figures,
  type FiguresMemory,
} from './figures.ts';
