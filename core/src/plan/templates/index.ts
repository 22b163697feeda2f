import { absorbance } from './absorbance.ts';
import { acPower } from './acPower.ts';
import { beatRate } from './beatRate.ts';
import { cellBench } from './cellBench.ts';
import { crossingTimer } from './crossingTimer.ts';
import { displacement } from './displacement.ts';
import { empty } from './empty.ts';
import { gasWatch } from './gasWatch.ts';
import { heading } from './heading.ts';
import { impactPeak } from './impactPeak.ts';
import { motionCounter } from './motionCounter.ts';
import { rideRecorder } from './rideRecorder.ts';
import { rotation } from './rotation.ts';
import { severalTemperatures } from './severalTemperatures.ts';
import { sprint } from './sprint.ts';
import type { GadgetTemplate } from './template.ts';

/** Starting points for a gadget of one's own, one for each measuring family. A new family is one file and one line here. */
export const TEMPLATES: readonly GadgetTemplate[] = [
  severalTemperatures,
  gasWatch,
  crossingTimer,
  motionCounter,
  acPower,
  beatRate,
  impactPeak,
  absorbance,
  rideRecorder,
  cellBench,
  rotation,
  sprint,
  heading,
  displacement,
  empty,
];

export { probeFigures, thermistorLine } from './severalTemperatures.ts';
export type { GadgetTemplate } from './template.ts';
