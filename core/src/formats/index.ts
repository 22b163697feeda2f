export { alarmTopic } from './alarmTopic.ts';
export { boardReader, MAX_BOARD_LINE, type BoardReading, type BoardIssueCode } from './boardReader.ts';
export { lineSplitter } from './lineSplitter.ts';
export {
  encodeSampleBlock,
  decodeSampleBlock,
  type SampleBlock,
  type SampleBlockHeader,
} from './sampleBlock.ts';
export {
  decodeReadings,
  encodeReadings,
  isReadings,
  type ReadingsBlock,
  type ReadingsPart,
} from './readingsBlock.ts';
export { csvHeader, csvHeading, csvRow, type CsvColumn } from './recordingCsv.ts';
export { reduceForPlot, type ReducedColumn } from './reduceForPlot.ts';
export { collectTable, type TableColumn, type TableReader, type TableSink } from './tableSink.ts';
export { delimitedReader, delimitedWriter, planDelimited, type DelimitedPlan } from './delimited.ts';
export { pairsLogReader } from './pairsLog.ts';
export { ndjsonReader, ndjsonRow } from './ndjson.ts';
export { readSenml, senmlReader, senmlUnit, writeSenml, type SenmlRecord } from './senml.ts';
export { FIX_COLUMNS, nmeaReader } from './nmea.ts';
export { nmeaChecksum } from './nmeaFields.ts';
export { nmeaFix } from './nmeaFix.ts';
export { gpxReader, gpxWriter, TRACK_COLUMNS } from './gpx.ts';
export { wavHeader, wavReader, wavSamples, writeWav, type WavFormat, type WavSink } from './wav.ts';
export {
  DESCRIPTOR_FILE,
  PACKAGE_TABLE_FILE,
  packageDescriptor,
  packageTablePath,
  type PackageContent,
} from './dataPackage.ts';
export { writeCalendar, type DueDate } from './calendar.ts';
export { readCalibrationJson, readLineJson, writeCalibrationJson, writeLineJson } from './lineJson.ts';
export { lineFields, type Fields } from './lineFields.ts';
export { mappedReader, type LineIssueCode, type LineReading } from './mappedReader.ts';
export { fileTimes, wrapOf, type FileTimes } from './fileTimes.ts';
export { detectLines, type DetectedField, type DetectedLines } from './detectLines.ts';
export { detectFile, FILE_FORMATS, type DetectedFile, type FileFormat } from './detectFile.ts';
export { losesNothing } from './losesNothing.ts';
export { degreesOf, fixColumnOf, type FixColumn } from './positionColumns.ts';
export { matchColumns } from './matchColumns.ts';
export { scanNumberBytes } from './scanNumberBytes.ts';
export { scanNumbers } from './scanNumbers.ts';
export { isWritableTime, STAMP_WORDS, stampScale } from './stampScale.ts';
export { storedBytesPerDay } from './storedBytesPerDay.ts';
export { delimitedText } from './delimitedText.ts';
