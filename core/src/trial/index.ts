export { alarmTrial, type AlarmTrial, type TrueEvent } from './alarmTrial.ts';
export { groupings, groupOf, partsOf, type GroupedBy } from './groupedBy.ts';
export { firstRule } from './firstRule.ts';
export { rankGroups, type Group, type Ranking, type Tried } from './rankGroups.ts';
export {
  addedUp,
  lessFloor,
  loadStepFinder,
  StepSums,
  steadyRule,
  type LoadStep,
  type SteadyRule,
  type StepSum,
} from './loadSteps.ts';
export { ruleFault } from './ruleFault.ts';
export { trendOfDays, type DaysTrend } from './trendOfDays.ts';
export { createTrialCutter, type CutStretch, type TrialCutter } from './trialCutter.ts';
export { withNotes, type BareTrial } from './withNotes.ts';
export { findRuns, type FoundRuns, type RunText } from './findRuns.ts';
export { changePoint, type ChangePoint } from './changePoint.ts';
