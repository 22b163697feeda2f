import type { Calibration, Gadget, Part } from '@lucky-needle/core/model';
import { readoutSpec, wholeLine } from '@lucky-needle/core/plan';
import type { WatchedSpec } from '@lucky-needle/core/reading';

/** Behind the id of a channel that is read without its calibration, beside the one with it. */
const AS_BOUGHT = ':bought';

/** What the live bench of a gadget runs: every channel with its calibration in use, and as bought where it has one. */
export function liveSpec(
  gadget: Gadget,
  calibrations: readonly Calibration[],
  parts: readonly Part[],
  columns: readonly string[],
  sampleRateHz: number,
): WatchedSpec {
  const { channels } = readoutSpec(gadget, calibrations, parts, sampleRateHz);
  const bought = channels
    .filter(({ id }) => calibrations.some((c) => c.channelId === id && c.state === 'in use'))
    .map((channel) => ({
      ...channel,
      id: `${channel.id}${AS_BOUGHT}`,
      line: wholeLine(
        gadget,
        gadget.channels.find((c) => c.id === channel.id)!,
        [],
      ),
      watch: undefined,
      shadow: null,
    }));
  return { columns, sampleRateHz, channels: [...channels, ...bought] };
}
