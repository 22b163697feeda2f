import type { FigureKind } from './kind.ts';
import { cadence } from './kinds/cadence.ts';
import { capacity } from './kinds/capacity.ts';
import { count } from './kinds/count.ts';
import { courseSpeed } from './kinds/courseSpeed.ts';
import { dayDrift } from './kinds/dayDrift.ts';
import { eventLength } from './kinds/eventLength.ts';
import { eventSize } from './kinds/eventSize.ts';
import { extreme } from './kinds/extreme.ts';
import { impulse } from './kinds/impulse.ts';
import { integral } from './kinds/integral.ts';
import { intervalScatter } from './kinds/intervalScatter.ts';
import { loadStep } from './kinds/loadStep.ts';
import { meanReading } from './kinds/meanReading.ts';
import { missed } from './kinds/missed.ts';
import { pathLength } from './kinds/pathLength.ts';
import { peakWavelength } from './kinds/peakWavelength.ts';
import { rateOfRise } from './kinds/rateOfRise.ts';
import { runDown } from './kinds/runDown.ts';
import { segment } from './kinds/segment.ts';
import { spread } from './kinds/spread.ts';
import { steepest } from './kinds/steepest.ts';
import { timeBetween } from './kinds/timeBetween.ts';
import { timeBeyond } from './kinds/timeBeyond.ts';
import { timeToDistance } from './kinds/timeToDistance.ts';
import { timeToLevel } from './kinds/timeToLevel.ts';
import { timeToTarget } from './kinds/timeToTarget.ts';
import { wander } from './kinds/wander.ts';

/** Every figure kind, in the order the Line page offers them. A new one is one file and one line here. */
export const FIGURES = [
  // of events
  count,
  cadence,
  intervalScatter,
  missed,
  dayDrift,
  eventSize,
  impulse,
  eventLength,
  timeBeyond,
  timeBetween,
  courseSpeed,
  timeToLevel,
  timeToDistance,
  segment,
  // of readings
  extreme,
  meanReading,
  wander,
  rateOfRise,
  timeToTarget,
  steepest,
  integral,
  pathLength,
  runDown,
  // of several channels
  spread,
  capacity,
  loadStep,
  peakWavelength,
] as readonly FigureKind[];

const BY_KIND = new Map(FIGURES.map((kind) => [kind.kind, kind]));

export const figureKind = (kind: string): FigureKind | undefined => BY_KIND.get(kind);
