import type { DetectorKind } from './kind.ts';
import { beat } from './kinds/beat.ts';
import { beyondLevel } from './kinds/beyondLevel.ts';
import { bout } from './kinds/bout.ts';
import { button } from './kinds/button.ts';
import { freeFall } from './kinds/freeFall.ts';
import { levelCrossing } from './kinds/levelCrossing.ts';
import { motion } from './kinds/motion.ts';
import { peak } from './kinds/peak.ts';
import { pulse } from './kinds/pulse.ts';
import { sector } from './kinds/sector.ts';
import { signal } from './kinds/signal.ts';
import { steady } from './kinds/steady.ts';

/** Every detector kind, in the order the Line page offers them. A new one is one file and one line here. */
export const DETECTORS = [
  beat,
  pulse,
  peak,
  levelCrossing,
  beyondLevel,
  motion,
  bout,
  steady,
  freeFall,
  sector,
  signal,
  button,
] as readonly DetectorKind[];

const BY_KIND = new Map(DETECTORS.map((kind) => [kind.kind, kind]));

export const detectorKind = (kind: string): DetectorKind | undefined => BY_KIND.get(kind);
