export { loadMill, type MillBench } from './loadMill.ts';
export { columnsOf, happenedIn, linesOf, MILL_PAST, truthOf, type MillPast, type PastRun } from './past.ts';
export type { MillStudy } from './studies.ts';
export { KILN, KILN_TRUTH } from './kiln.ts';
export { MILL_GADGETS, type MillGadget } from './millGadgets.ts';
