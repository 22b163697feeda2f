import type { StageKind } from '../line/stage.ts';
import { adc } from './adc.ts';
import { butterworthLowpass } from './butterworthLowpass.ts';
import { divider } from './divider.ts';
import { exponential } from './exponential.ts';
import { gainOffset } from './gainOffset.ts';
import { movingMean } from './movingMean.ts';
import { steinhartHart } from './steinhartHart.ts';
import { thermistorBeta } from './thermistorBeta.ts';

/** Every stage kind, in the order the Line page offers them. A new stage is one file and one line here. */
export const STAGES = [
  adc,
  divider,
  thermistorBeta,
  steinhartHart,
  gainOffset,
  exponential,
  movingMean,
  butterworthLowpass,
] as unknown as readonly StageKind[];
