export { boardReader, MAX_BOARD_LINE, type BoardReading, type BoardIssueCode } from './boardReader.ts';
export { lineSplitter } from './lineSplitter.ts';
export {
  encodeSampleBlock,
  decodeSampleBlock,
  type SampleBlock,
  type SampleBlockHeader,
} from './sampleBlock.ts';
export {
  csvHeader,
  csvHeading,
  csvRow,
  planCsvImport,
  readCsvRow,
  type CsvColumn,
  type CsvPlan,
  type CsvRowResult,
} from './recordingCsv.ts';
export { reduceForPlot, type ReducedColumn } from './reduceForPlot.ts';
