export {
  filterSections,
  sectionFilter,
  sectionResponse,
  zeroPhaseSections,
  type ColumnFilter,
  type Complex,
  type Section,
} from './sections.ts';
export { BUTTERWORTH_KINDS, butterworthSections, type ButterworthKind } from './butterworth.ts';
export { notchSection } from './notch.ts';
export { FIR_WINDOWS, firFilter, firResponse, firTaps, type FirKind, type FirWindow } from './fir.ts';
export { smoothColumn, smoothingWeights } from './smoothingPolynomial.ts';
export { centredMean, centredMedian, sortedWindow, type SortedWindow } from './sortedWindow.ts';
