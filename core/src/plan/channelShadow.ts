import { calibrationCovariance } from '../calibrate/calibrationCovariance.ts';
import { isUncertaintyKnown } from '../calibrate/isUncertaintyKnown.ts';
import { compileLine, MOVED_BY, movedLines } from '../line/index.ts';
import type { Calibration } from '../model/calibration.ts';
import type { Channel, Gadget } from '../model/gadget.ts';
import type { LineSpec, StageSpec } from '../model/line.ts';
import type { ShadowSpec } from '../reading/index.ts';
import { briefFor } from './briefFor.ts';
import { rangeIn } from './rangeIn.ts';
import { calibrationInUse, trueUpChannel, wholeLine } from './wholeLine.ts';

/**
 * How the readings of a channel tell themselves what they are worth: for lines that cannot be walked back to raw values,
 * such as of several raw columns, whole cycles, a rate. Null where nothing is known of the constants.
 * @param spec the whole line with the calibration in use
 */
export function channelShadow(
  gadget: Gadget,
  channel: Channel,
  spec: LineSpec,
  calibrations: readonly Calibration[],
): ShadowSpec | null {
  const owner = trueUpChannel(gadget, channel);
  const used = calibrationInUse(gadget, channel, calibrations);
  if (!isUncertaintyKnown(spec, used)) return null;
  try {
    const line = compileLine(spec, { sampleRateHz: gadget.sampleRateHz });
    const brief = briefFor(gadget, channel);
    const ends = (brief && rangeIn(brief, line.outputs[0]!.unit)) ?? { low: 0, high: 1 };
    const covariance = used && calibrationCovariance(used.result);
    const lines = movedLines(line, covariance);
    const leftOver = covariance?.leftOver ?? 0;
    if (owner.id === channel.id || leftOver === 0) return { lines, leftOver, ...ends };
    // What the fit of another channel leaves is off there, and goes through what comes behind.
    const before = wholeLine(gadget, owner, calibrations).stages.length;
    return { lines: [...lines, offAt(spec, before, MOVED_BY * leftOver)], leftOver: 0, ...ends };
  } catch (error) {
    // A line that does not run, or a constant at the end of what it may be: nothing is known then.
    if (error instanceof RangeError) return null;
    throw error;
  }
}

function offAt({ sources, stages }: LineSpec, place: number, offset: number): LineSpec {
  const off: StageSpec = {
    id: 'left-over',
    kind: 'gain-offset',
    params: { gain: 1, offset },
    uncertainty: {},
    off: false,
  };
  return { sources, stages: [...stages.slice(0, place), off, ...stages.slice(place)] };
}
