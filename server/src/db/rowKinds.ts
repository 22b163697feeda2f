import { CALIBRATION_ROWS } from './calibrations.ts';
import { EVIDENCE_ROWS } from './evidence.ts';
import { GADGET_ROWS } from './gadgets.ts';
import { LINK_ROWS } from './links.ts';
import { LOG_ROWS } from './logbook.ts';
import { REFERENCE_ROWS } from './ownReferences.ts';
import { PART_ROWS } from './parts.ts';
import { POINT_ROWS } from './points.ts';
import { RECORDING_ROWS } from './recordings.ts';
import { RUN_PLAN_ROWS } from './runPlans.ts';
import { STUDY_ROWS } from './studies.ts';
import { TRIAL_NOTE_ROWS, TRIAL_RULE_ROWS } from './trials.ts';
import type { RowKind } from './rowKind.ts';

/** Every table whose rows the API answers. */
export const ROW_KINDS = [
  GADGET_ROWS,
  PART_ROWS,
  REFERENCE_ROWS,
  LINK_ROWS,
  POINT_ROWS,
  EVIDENCE_ROWS,
  CALIBRATION_ROWS,
  RECORDING_ROWS,
  RUN_PLAN_ROWS,
  STUDY_ROWS,
  TRIAL_RULE_ROWS,
  TRIAL_NOTE_ROWS,
  LOG_ROWS,
] as unknown as readonly RowKind<Record<string, unknown>, unknown>[];
