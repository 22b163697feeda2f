import { isUncertaintyKnown } from '../calibrate/isUncertaintyKnown.ts';
import {
  compileLine,
  givesDirection,
  invertLine,
  uncertaintyAlong,
  type CalibrationCovariance,
  type CompiledLine,
} from '../line/index.ts';
import type { Calibration } from '../model/calibration.ts';
import type { Channel, ChannelBrief, Gadget } from '../model/gadget.ts';
import type { LineSpec } from '../model/line.ts';
import type { Part } from '../model/part.ts';
import type { BudgetTable, ChannelWatch } from '../reading/index.ts';
import { LineError } from '../stage/contract.ts';
import { briefFor } from './briefFor.ts';
import { covarianceOf } from './covarianceOf.ts';
import { rangeIn } from './rangeIn.ts';
import { sensorOf } from './sensorOf.ts';
import { sensorShare } from './sensorShare.ts';
import { calibrationInUse, trueUpChannel, wholeLine } from './wholeLine.ts';

/** What the crystal of a board is good to, as a share: 50 parts in a million either way, as they are sold. */
const CRYSTAL = 50e-6 / Math.sqrt(3);

/** Readings over the brief at which uncertainty is worked out. */
const PLACES = 7;

/**
 * What counts on a channel and what is made of it, with what its readings are worth; undefined where nothing is.
 * @param line the whole line with the calibration in use
 */
export function channelWatch(
  gadget: Gadget,
  channel: Channel,
  line: LineSpec,
  calibrations: readonly Calibration[],
  parts: readonly Part[],
): ChannelWatch | undefined {
  const { watches = [], figures = [] } = channel;
  if (watches.length === 0 && figures.length === 0) return undefined;
  const others = gadget.channels
    .filter((c) => figures.some((f) => f.others.includes(c.id)))
    .map((other) => ({ other, whole: wholeLine(gadget, other, calibrations) }));
  return {
    watches,
    figures,
    budget: budgetTable(gadget, channel, line, calibrations),
    sensor: ownOf(gadget, channel, line, calibrations, parts),
    otherBudgets: Object.fromEntries(
      others.map(({ other, whole }) => [other.id, budgetTable(gadget, other, whole, calibrations)]),
    ),
    otherSensors: Object.fromEntries(
      others.map(({ other, whole }) => [other.id, ownOf(gadget, other, whole, calibrations, parts)]),
    ),
    // Without a board nobody knows what keeps its time.
    clockShare: gadget.picks.some((p) => p.slot === 'board') ? CRYSTAL : null,
    isDirection: givesDirection(line),
  };
}

/** What the sensor that is picked for a channel is good to by itself. */
function ownOf(
  gadget: Gadget,
  channel: Channel,
  whole: LineSpec,
  calibrations: readonly Calibration[],
  parts: readonly Part[],
) {
  const sensor = sensorOf(gadget, channel, parts);
  const used = calibrationInUse(gadget, channel, calibrations);
  return sensorShare(sensor, whole, gadget.sampleRateHz, briefFor(gadget, channel), used);
}

/** Uncertainty over the brief, where the line can be walked back to raw values; null where nothing is known of it. */
export function budgetTable(
  gadget: Gadget,
  channel: Channel,
  spec: LineSpec,
  calibrations: readonly Calibration[],
): BudgetTable | null {
  const used = calibrationInUse(gadget, channel, calibrations);
  const brief = briefFor(gadget, trueUpChannel(gadget, channel));
  if (!brief || !isUncertaintyKnown(spec, used)) return null;
  try {
    const line = compileLine(spec, { sampleRateHz: gadget.sampleRateHz });
    return tableOf(line, brief, used && covarianceOf(gadget, channel, calibrations, used));
  } catch (error) {
    // A line that cannot be walked back, or does not run: nothing is known then.
    if (error instanceof LineError || error instanceof RangeError) return null;
    throw error;
  }
}

function tableOf(
  line: CompiledLine,
  brief: ChannelBrief,
  covariance: CalibrationCovariance | null,
): BudgetTable | null {
  const ends = rangeIn(brief, line.outputs[0]!.unit);
  // What other channels read comes to it: the readings tell it themselves then.
  if (line.stages.some((s) => s.kind.over)) return null;
  if (!ends || line.outputs.length > 1 || line.sources.length > 1) return null;
  const at = uncertaintyAlong(line, covariance);
  const rows = Array.from(
    { length: PLACES },
    (_, i) => ends.low + ((ends.high - ends.low) * i) / (PLACES - 1),
  )
    .map((reading) => {
      const raw = invertLine(line, reading)[0]!;
      const end = Number.isFinite(raw) ? at(raw, 0).at(-1)! : null;
      return { reading, systematic: end?.systematic ?? Number.NaN, noise: end?.noise ?? Number.NaN };
    })
    .filter((row) => Number.isFinite(row.systematic + row.noise));
  if (rows.length === 0) return null;
  return {
    readings: rows.map((r) => r.reading),
    systematic: rows.map((r) => r.systematic),
    noise: rows.map((r) => r.noise),
  };
}
