import { calibratedLine } from '../calibrate/calibratedLine.ts';
import type { Calibration } from '../model/calibration.ts';
import type { Channel, Gadget } from '../model/gadget.ts';
import type { Part } from '../model/part.ts';
import { slowestRateHz, type ReadoutChannel, type ReadoutSpec } from '../reading/index.ts';
import { briefFor } from './briefFor.ts';
import { planOf } from './gadgetPlan.ts';
import { rawColumns } from './rawColumns.ts';

/** What a channel's line is run with beside its stages: the same wherever it is run. */
export function readoutChannel(
  gadget: Gadget,
  channel: Channel,
  calibrations: readonly Calibration[],
  parts: readonly Part[],
): ReadoutChannel {
  // A line that lost the stage that its calibration changes is read as bought until it is trued up again.
  const fits = calibrations
    .filter((c) => c.channelId === channel.id && c.state === 'in use')
    .every((c) => c.result.edits.every((e) => channel.line.stages.some((s) => s.id === e.stageId)));
  return {
    id: channel.id,
    line: fits ? calibratedLine(channel.line, channel.id, calibrations).line : channel.line,
    slowestHz: slowestRateHz(briefFor(gadget, channel)),
    warmUpS: warmUpOf(gadget, channel, parts),
  };
}

/** All channels of a gadget, over its own raw columns. @param sampleRateHz rows a second, as they really come */
export function readoutSpec(
  gadget: Gadget,
  calibrations: readonly Calibration[],
  parts: readonly Part[],
  sampleRateHz: number,
): ReadoutSpec {
  return {
    columns: rawColumns(gadget),
    sampleRateHz,
    channels: gadget.channels.map((channel) => readoutChannel(gadget, channel, calibrations, parts)),
  };
}

/** The longest warm-up of the parts picked for what a channel shows, s; 0 where none is known. */
export function warmUpOf(gadget: Gadget, channel: Channel, parts: readonly Part[]): number {
  const plan = gadget.brief && planOf(gadget, parts);
  const picked = plan?.sensing.filter((s) => s.ask.id === channel.askId) ?? [];
  return Math.max(0, ...picked.map((s) => s.part?.warmUpS ?? 0));
}
