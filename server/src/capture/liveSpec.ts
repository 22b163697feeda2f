import type { Calibration, Gadget, Part } from '@lucky-needle/core/model';
import { feltLine, readoutSpec, wholeLine } from '@lucky-needle/core/plan';
import type { WatchedSpec } from '@lucky-needle/core/reading';

/** Behind the id of a channel that is read without its calibration, beside the one with it. */
const AS_BOUGHT = ':bought';

/** A channel that is read as it is felt, beside the one that others put right. */
export const feltId = (channelId: string) => `${channelId}:felt`;

/**
 * What the live bench of a gadget runs: every channel with its calibration in use, as bought where it has one, and as it is
 * felt where other channels put it right.
 */
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
  const felt = channels
    .filter(({ line }) => line.beside)
    .map((channel) => ({
      ...channel,
      id: feltId(channel.id),
      line: feltLine(channel.line),
      watch: undefined,
      shadow: null,
    }));
  return { columns, sampleRateHz, channels: [...channels, ...bought, ...felt] };
}
