export type { RawRows } from './rawLanes.ts';
export {
  createReadout,
  type Readout,
  type ReadoutChannel,
  type ReadoutLine,
  type ReadoutMemory,
  type ReadoutSpec,
  type TakeStages,
} from './readout.ts';
export { slowestRateHz } from './slowestRate.ts';
export { History, type Readings } from './history.ts';
export { stretchStatistics, type StretchStatistics } from './stretchStatistics.ts';
export { CurveThinner, type Curve, type Gap } from './curve.ts';
export {
  BUCKET_READINGS,
  drawOverview,
  mergeOverview,
  OverviewBuilder,
  ReadingSummary,
  type Reading,
} from './overview.ts';
export {
  createWatchedReadout,
  type ChannelWatch,
  type WatchedChannel,
  type WatchedReadout,
  type WatchedSpec,
  type WatchMemory,
} from './watchedReadout.ts';
export type { BudgetTable } from './budgetTable.ts';
export type { ShadowSpec } from './shadow.ts';
