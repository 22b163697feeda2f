import { captureUncertainty } from '@lucky-needle/core/calibrate';
import type { Capture } from '@lucky-needle/core/model';
import { printWithUncertainty, type PrintedQuantity } from '@lucky-needle/core/units';

/** The mean of what was captured, in counts, to the digits that it is known to. */
export const printCapture = (capture: Capture): PrintedQuantity =>
  printWithUncertainty(capture.mean, 2 * captureUncertainty(capture), 'count');
