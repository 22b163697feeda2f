import type { Calibration } from '../model/calibration.ts';
import { dueState, type DueState } from '../references/index.ts';

/** Where nobody has said after how long a calibration is to be checked. */
const USUAL_MONTHS = 12;

/** Until when a calibration is trusted: from the day on which it was made, also where it was put back in use since. */
export const calibrationDue = (
  { createdAt, goodForMonths = USUAL_MONTHS }: Pick<Calibration, 'createdAt' | 'goodForMonths'>,
  today: string,
): DueState => dueState({ checkedOn: createdAt.slice(0, 10), goodForMonths }, today);
