import { acLag, acMiddleFit, acScale } from './acFits.ts';
import { drags } from './drags.ts';
import type { GuidedFit } from './guidedFit.ts';
import { landmark } from './landmark.ts';
import { sixRests } from './sixRests.ts';
import { timeBase } from './timeBase.ts';
import { turned } from './turned.ts';

/** Every guided true-up. A new one is one file and one line here. */
export const GUIDED_FITS = [
  sixRests,
  turned,
  landmark,
  acMiddleFit,
  acLag,
  acScale,
  drags,
  timeBase,
] as unknown as readonly GuidedFit[];
