export {
  SHELF,
  BOARDS,
  CONVERTERS,
  DISPLAYS,
  SENSORS,
  SOUNDERS,
  SUPPLIES,
  blankPart,
  findPart,
  partsOf,
  shelfWith,
} from './shelf/index.ts';
export {
  partFromCells,
  partsFromCsv,
  partsFromJson,
  partsToCsv,
  partsToJson,
  partToCells,
  type PartsRead,
} from './partsFile.ts';
export { partFaults } from './partFaults.ts';

export { briefFaults, type BriefFault } from './briefFault.ts';
export { askedOfFigures, figureBrief, figureUnit, readingUnit, shownFigure } from './shown.ts';
export { alarmInWords, alarmUnit, cannotWatch } from './alarms.ts';
export {
  endsOf,
  namedState,
  needleUnit,
  proposedStates,
  stateInWords,
  stateOfReading,
  statesFault,
  wordOfReading,
} from './namedStates.ts';
export { dueDates } from './dueDates.ts';
export { proposedAlarms } from './proposedAlarms.ts';
export { nowFigures, seenEvent } from './nowFigures.ts';
export { covarianceOf } from './covarianceOf.ts';
export { rangeIn } from './rangeIn.ts';
export { calibrationInUse, feltLine, isOverChannels, trueUpChannel, wholeLine } from './wholeLine.ts';
export {
  allClaims,
  gadgetProof,
  seenRows,
  type ChannelProof,
  type GadgetProof,
  type SeenRows,
} from './gadgetProof.ts';
export { proofAnswer } from './proofAnswer.ts';
export { studyAbout } from './studyAbout.ts';
export { briefInWords } from './briefInWords.ts';
export { briefFor, briefOfAsk, channelsOf, sensedBrief, toleranceIn } from './briefFor.ts';
export { channelsForAsks } from './channelsForAsks.ts';
export { sensorOf } from './sensorOf.ts';
export { readoutChannel, readoutSpec } from './readoutSpec.ts';
export { warmUpFor } from './warmUpFor.ts';
export { linesForPicks, withSensorLines } from './linesForPicks.ts';
export { demandsOf, gadgetDemands, latency, trackingTopSpeed, type Demand } from './demands.ts';
export { contradiction, contradictionsOf, type Contradiction } from './contradictions.ts';
export { TEMPLATES, probeFigures, thermistorLine, type GadgetTemplate } from './templates/index.ts';
export { cautionTitle, cautionsFor, type Caution } from './cautions.ts';
export { environmentFindings, type Bears, type EnvironmentFinding } from './environment.ts';

export { planOf, planWith, boardOf, PLAIN_HOOKUP, type GadgetPlan, type Sensing } from './gadgetPlan.ts';
export {
  CHECKS,
  WEIGHTS,
  type Candidate,
  type Check,
  type FitState,
  type PartVerdict,
  type Weights,
} from './verdict.ts';
export { rankSensors, convertersFor } from './rankSensors.ts';
export { rankBoards } from './rankBoards.ts';
export { rankDisplays, charactersNeeded } from './rankDisplays.ts';
export { rankSounders } from './rankSounders.ts';
export { rankSupplies } from './rankSupplies.ts';
export { rankSlot } from './rankSlot.ts';
export { compareCandidates, type ComparedCheck } from './compareCandidates.ts';
export { processingChoice } from './processing.ts';
export { lineForSensor, digitiserOf } from './sensorLine.ts';
export { laggedPeak } from '../prove/keptOfEvent.ts';

export { assignPins, type PinPlan, type PinsWayOut } from './assignPins.ts';
export { boardPins, pinNeedsOf, wiredParts, type WiredPart } from './pinNeeds.ts';
export { solvePins, type BoardPin, type PinNeed, type PinSolution, type WayOut } from './pinSolver.ts';
export { wiringTable, type Wire } from './wiringTable.ts';
export { assignAddresses, busLoad, pullUpRange, type AddressPlan, type BusDevice } from './bus.ts';
export { busPlan, type BusPlan } from './busPlan.ts';
export { analogCrossing, levelCrossing, type LevelCrossing } from './levels.ts';
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
export {
  currentKind,
  partQuestion,
  powerPlan,
  runtimeCurves,
  type PowerPlan,
  type RuntimeCurve,
} from './powerPlan.ts';
export { railFor, railVolts } from './rails.ts';
export { eSeriesBetween, inputFilter, nearestInSeries, selfHeating, type ESeries } from './inputFilter.ts';
export { bestSeriesResistor, worstStep, type SeriesChoice } from './seriesChoice.ts';
export { dividerCurve, dividerOf, withSeriesResistor, type DividerCurve } from './dividerHelper.ts';
export { BARE_KELVIN_PER_WATT, loadHeat } from './loadHeat.ts';
export { partsCost, type CostResult, type PartLine } from './cost.ts';
export { listCost, partsList, partsListCsv, type ListedPart } from './partsList.ts';
export {
  bringUpSheet,
  type BringUpCheck,
  type BringUpSheet,
  type ExpectedGroup,
} from './bringUp/bringUpSheet.ts';
export { expectedRows, type ExpectedColumn, type ExpectedRow } from './bringUp/expectedRows.ts';
export { judgeRow, type RowJudgement } from './bringUp/judgeRow.ts';
export { besideOthers } from './besideOthers.ts';
export { rawColumns } from './rawColumns.ts';
