import { isUncertaintyKnown } from '../calibrate/isUncertaintyKnown.ts';
import { compileLine, largestLeftOver, MOVED_BY, movedLines, offAt, paramAt } from '../line/index.ts';
import { withLineParam } from '../line/paramPath.ts';
import type { Calibration } from '../model/calibration.ts';
import type { Channel, Gadget } from '../model/gadget.ts';
import type { BesideLine, LineSpec } from '../model/line.ts';
import type { ShadowSpec } from '../reading/index.ts';
import { LineError } from '../stage/contract.ts';
import { briefFor } from './briefFor.ts';
import { rangeIn } from './rangeIn.ts';
import { covarianceOf } from './covarianceOf.ts';
import { calibrationInUse, isOverChannels, trueUpChannel, truedStages } from './wholeLine.ts';

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
  const others = (spec.beside ?? []).map((of): Beside => {
    const other = gadget.channels.find((c) => c.id === of.channelId)!;
    return { of, channel: other, used: calibrationInUse(gadget, other, calibrations) };
  });
  // What is taken off is worth no more than what it is made of.
  if (!isUncertaintyKnown(spec, used) || !others.every((o) => isUncertaintyKnown(o.of, o.used))) return null;
  try {
    const line = compileLine(spec, { sampleRateHz: gadget.sampleRateHz });
    const brief = briefFor(gadget, channel);
    const ends = (brief && rangeIn(brief, line.outputs[0]!.unit)) ?? { low: 0, high: 1 };
    const covariance = used && covarianceOf(gadget, channel, calibrations, used);
    const lines = [
      ...movedLines(line, covariance),
      ...(covariance ? movedWeights(spec) : []),
      ...others.flatMap((o) => movedOthers(gadget, spec, o, calibrations)),
    ];
    const leftOver = covariance?.leftOver ?? 0;
    const most = largestLeftOver(leftOver);
    if (owner.id === channel.id || most === 0) return { lines, leftOver, ...ends };
    if (Number.isNaN(most)) return null;
    // What the fit of another channel leaves is off there, and goes through what comes behind.
    return { lines: [...lines, offAt(spec, covariance!.stages!, MOVED_BY * most)], leftOver: 0, ...ends };
  } catch (error) {
    // A line that does not run, or a constant at the end of what it may be: nothing is known then.
    if (error instanceof RangeError) return null;
    throw error;
  }
}

/** The line with what its stages over channels go by moved, each number by itself; a calibration says nothing of those. */
const movedWeights = (spec: LineSpec): LineSpec[] =>
  spec.stages
    .filter(isOverChannels)
    .flatMap(({ id, params, uncertainty }) =>
      Object.entries(uncertainty).map(([param, u]) =>
        withLineParam(spec, id, param, paramAt(params, param) + MOVED_BY * u),
      ),
    );

/** Another channel that a stage of the line takes, and the calibration that its readings rest on. */
interface Beside {
  readonly of: BesideLine;
  readonly channel: Channel;
  readonly used: Calibration | null;
}

/**
 * The line with the constants of another channel moved, and what its fit leaves where that stands: at the end of its line, or
 * where it goes on from a third channel.
 * @throws {LineError} where the stages behind do not tell what it leaves there
 */
function movedOthers(
  gadget: Gadget,
  spec: LineSpec,
  { of, channel, used }: Beside,
  calibrations: readonly Calibration[],
): LineSpec[] {
  const { sampleRateHz } = gadget;
  const covariance = used && covarianceOf(gadget, channel, calibrations, used);
  const own: LineSpec = { sources: of.sources, stages: of.stages };
  const left = largestLeftOver(covariance?.leftOver ?? 0);
  if (Number.isNaN(left)) throw new LineError(null, `${channel.name}: what its fit leaves is not known.`);
  const trued = truedStages(gadget, channel, calibrations).filter((s) => !s.off && !isOverChannels(s));
  const moved = [
    ...movedLines(compileLine(own, { sampleRateHz, slowestHz: of.slowestHz }), covariance),
    ...(left > 0 ? [offAt(own, trued.length, MOVED_BY * left)] : []),
  ];
  return moved.map(({ sources, stages }) => ({
    ...spec,
    beside: spec.beside!.map((b) => (b.channelId === of.channelId ? { ...b, sources, stages } : b)),
  }));
}
