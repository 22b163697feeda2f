import type { Calibration } from '../model/calibration.ts';
import type { Channel, Gadget } from '../model/gadget.ts';
import type { LineSpec } from '../model/line.ts';
import type { Part } from '../model/part.ts';
import { slowestRateHz, type WatchedChannel, type WatchedSpec } from '../reading/index.ts';
import { briefFor } from './briefFor.ts';
import { channelShadow } from './channelShadow.ts';
import { budgetTable, channelWatch } from './channelWatch.ts';
import { rawColumns } from './rawColumns.ts';
import { warmUpFor } from './warmUpFor.ts';
import { trueUpChannel, wholeLine } from './wholeLine.ts';

/** What a channel's line is run with beside its stages, and what counts on it: the same wherever it is run. */
export function readoutChannel(
  gadget: Gadget,
  channel: Channel,
  calibrations: readonly Calibration[],
  parts: readonly Part[],
): WatchedChannel {
  const line = withPace(gadget, wholeLine(gadget, channel, calibrations), parts);
  const owner = trueUpChannel(gadget, channel);
  const watch = channelWatch(gadget, channel, line, calibrations, parts);
  const table = watch ? watch.budget : budgetTable(gadget, channel, line, calibrations);
  return {
    id: channel.id,
    line,
    slowestHz: slowestRateHz(briefFor(gadget, owner)),
    warmUpS: warmUpFor(gadget, [owner.askId], parts).seconds,
    watch,
    // Only where no table tells what readings are worth.
    shadow: table ? null : channelShadow(gadget, channel, line, calibrations),
  };
}

/** How slow the others may be, and how long they warm up. */
function withPace(gadget: Gadget, line: LineSpec, parts: readonly Part[]): LineSpec {
  if (!line.beside) return line;
  return {
    ...line,
    beside: line.beside.map((of) => {
      const owner = trueUpChannel(
        gadget,
        gadget.channels.find((c) => c.id === of.channelId)!,
      );
      const slowestHz = slowestRateHz(briefFor(gadget, owner));
      return {
        ...of,
        ...(slowestHz === undefined ? {} : { slowestHz }),
        warmUpS: warmUpFor(gadget, [owner.askId], parts).seconds,
      };
    }),
  };
}

/** All channels of a gadget, over its own raw columns. @param sampleRateHz rows a second, as they really come */
export function readoutSpec(
  gadget: Gadget,
  calibrations: readonly Calibration[],
  parts: readonly Part[],
  sampleRateHz: number,
): WatchedSpec {
  return {
    columns: rawColumns(gadget),
    sampleRateHz,
    channels: gadget.channels.map((channel) => readoutChannel(gadget, channel, calibrations, parts)),
  };
}
