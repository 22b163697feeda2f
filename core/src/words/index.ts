export { GLOSSARY, type GlossaryEntry } from './glossary.ts';
export { findTerms, type TextPart } from './findTerms.ts';
export { counted, listed } from './counted.ts';
export { lowerFirst } from './lowerFirst.ts';
export {
  ALARM_WORDS,
  APPEARANCE_WORDS,
  CABLE_WORDS,
  CALIBRATION_WORDS,
  CELL_WORDS,
  CHEMISTRY_WORDS,
  CHOICE_WORDS,
  ENVIRONMENT_WORDS,
  HAZARD_WORDS,
  LINE_FAULT_WORDS,
  LINK_WORDS,
  MEASURAND_WORDS,
  PIN_WORDS,
  PROCESSING_WORDS,
  SIGNAL_WORDS,
  VERDICT_WORDS,
  dimensionWord,
  pinWord,
} from './keyWords.ts';
export { upperFirst } from './upperFirst.ts';
