export type {
  StudyAbout,
  StudyColumn,
  StudyEvidence,
  StudyFact,
  StudyKind,
  StudyPlot,
  StudyPlotAxis,
  StudyPlotSeries,
  StudyResult,
  StudyRow,
  StudySamples,
  StudySettings,
  StudyValues,
} from './kind.ts';
export { stretchShape, type StretchShape } from './stretchShape.ts';
export { checkStudySettings, judgeStudy, STUDIES, studyKindOf } from './studies.ts';
