export { crossingTime, detectAll, type Detector, type Emit } from './detector.ts';
export { levelCrossings, type Crossing } from './levelCrossings.ts';
export { findPeaks, type PeakOptions, type Peaks } from './findPeaks.ts';
export { streamPeaks, type PeakEvent, type StreamPeakOptions } from './streamPeaks.ts';
export { beats, type Beat, type BeatOptions } from './beats.ts';
export { summariseBeats, type BeatSummary } from './beatSummary.ts';
export { pulses, type Pulse } from './pulses.ts';
export { crossingFit } from './crossingFit.ts';
export { runStartStop, type RunEvent } from './runStartStop.ts';
export { stableWindows, type StableWindow } from './stableWindows.ts';
export { FAULT_KINDS, streamFaults, type StreamFault, type StreamFaultOptions } from './streamFaults.ts';
export { beyond, stretchesBeyond, type BeyondRule, type BeyondStretch } from './stretchesBeyond.ts';
export { DETECTORS, detectorKind } from './detectors.ts';
export type { DetectedEvent, DetectorKind, DetectorParams, Finding, Trace } from './kind.ts';
export { noiseOf } from './traceTraits.ts';
export {
  createWatches,
  edgesOf,
  WatchError,
  type WatchContext,
  type WatchedEvent,
  type Watches,
  type WatchesMemory,
} from './watches.ts';
