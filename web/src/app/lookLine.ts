import type {
  Calibration,
  Channel,
  Gadget,
  LineSpec,
  LookLine,
  Part,
  Recording,
} from '@lucky-needle/core/model';
import { lineColumns } from '@lucky-needle/core/line';
import { readoutChannel, wholeLine } from '@lucky-needle/core/plan';

interface Read {
  readonly gadget: Gadget;
  readonly calibrations: readonly Calibration[];
}

/**
 * A channel as the server is asked to read a recording by it.
 * @param line another line than its own with the calibration in use
 */
export function lookLine(
  { gadget, calibrations }: Read,
  channel: Channel,
  shelf: readonly Part[],
  recording: Recording,
  line?: LineSpec,
): LookLine {
  const own = readoutChannel(gadget, channel, calibrations, shelf);
  return {
    id: channel.id,
    line: line ?? own.line,
    slowestHz: own.slowestHz ?? null,
    // What was brought in from a file says nothing of when it was switched on.
    warmUpS: recording.state === 'imported' ? 0 : (own.warmUpS ?? 0),
  };
}

/** Whether a recording has the raw columns that a channel starts from, or what it goes on from. */
export const canRead = (recording: Recording, gadget: Gadget, channel: Channel): boolean =>
  lineColumns(wholeLine(gadget, channel, [])).every((name) => recording.columns.some((c) => c.name === name));
