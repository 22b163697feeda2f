import { calibrationCovariance } from '../calibrate/calibrationCovariance.ts';
import { compileLine, largestLeftOver, leftOverBefore, type CalibrationCovariance } from '../line/index.ts';
import type { Calibration, LeftOver } from '../model/calibration.ts';
import type { Channel, Gadget } from '../model/gadget.ts';
import type { StageSpec } from '../model/line.ts';
import { LineError } from '../stage/contract.ts';
import { trueUpChannel, truedStages, wholeLine } from './wholeLine.ts';

type Lines = Pick<Gadget, 'channels' | 'sampleRateHz'>;

const on = (stages: readonly StageSpec[]) => stages.filter((s) => !s.off).length;

/**
 * What the uncertainty arithmetic needs of the calibration that a channel's readings rest on: its own, or that of the channel
 * that it goes on from, at its end or in its middle.
 */
export function covarianceOf(
  gadget: Lines,
  channel: Channel,
  calibrations: readonly Calibration[],
  { result }: Calibration,
): CalibrationCovariance {
  const owner = trueUpChannel(gadget, channel);
  if (owner.id === channel.id) return calibrationCovariance(result);
  const whole = wholeLine(gadget, owner, calibrations);
  const stages = on(truedStages(gadget, channel, calibrations));
  const covariance = calibrationCovariance(result, stages);
  if (stages >= on(whole.stages) || largestLeftOver(covariance.leftOver) === 0) return covariance;
  return { ...covariance, leftOver: before() };

  function before(): LeftOver {
    try {
      const line = compileLine(whole, { sampleRateHz: gadget.sampleRateHz });
      return leftOverBefore(line, stages, covariance.leftOver, covariance.validRaw);
    } catch (error) {
      if (error instanceof LineError) return Number.NaN;
      throw error;
    }
  }
}
