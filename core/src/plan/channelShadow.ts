import { isUncertaintyKnown } from '../calibrate/isUncertaintyKnown.ts';
import { compileLine, largestLeftOver, MOVED_BY, offAt, waysOff, withWayOff } from '../line/index.ts';
import type { Calibration } from '../model/calibration.ts';
import type { Channel, Gadget } from '../model/gadget.ts';
import type { LineSpec } from '../model/line.ts';
import type { ShadowSpec } from '../reading/index.ts';
import { briefFor } from './briefFor.ts';
import { rangeIn } from './rangeIn.ts';
import { covarianceOf } from './covarianceOf.ts';
import { calibrationInUse, trueUpChannel, truedStages } from './wholeLine.ts';

/**
 * How the readings of a channel tell themselves what they are worth: for lines that cannot be walked back to raw values,
 * such as of several raw columns, whole cycles, a rate. The line is moved by a tenth of what its constants are uncertain by, and
 * those of the channels that it takes, once for each independent way in which they may be off: what the readings then move, ten
 * times over and combined in quadrature, is their standard uncertainty by the constants, whatever stages with memory there
 * are (JCGM 100:2008, 5.1.3 note 2 and 5.2.2). Null where nothing is known of the constants.
 * @param spec the whole line with the calibration in use
 */
export function channelShadow(
  gadget: Gadget,
  channel: Channel,
  spec: LineSpec,
  calibrations: readonly Calibration[],
): ShadowSpec | null {
  const parts = [
    { channel, spec },
    ...(spec.beside ?? []).map((of) => ({
      channel: gadget.channels.find((c) => c.id === of.channelId)!,
      spec: { sources: of.sources, stages: of.stages },
    })),
  ].map((part): Part => ({ ...part, used: calibrationInUse(gadget, part.channel, calibrations) }));
  // What is taken off is worth no more than what it is made of.
  if (!parts.every((p) => isUncertaintyKnown(p.spec, p.used))) return null;
  try {
    const line = compileLine(spec, { sampleRateHz: gadget.sampleRateHz });
    const brief = briefFor(gadget, channel);
    const ends = (brief && rangeIn(brief, line.outputs[0]!.unit)) ?? { low: 0, high: 1 };
    const offs = parts.map((p) => offsOf(gadget, p, calibrations));
    const [own, ...others] = offs;
    const { used } = parts[0]!;
    // What the channel's own fit leaves stands at the end of its line: it is told by the reading.
    const end = used && trueUpChannel(gadget, channel).id === channel.id ? leftKey(used) : null;
    const isEndApart = end !== null && !others.some((of) => of.has(end));
    const leftOver = isEndApart ? covarianceOf(gadget, channel, calibrations, used!).leftOver : 0;
    if (isEndApart) own!.delete(end);
    const keys = new Set(offs.flatMap((of) => [...of.keys()]));
    return { lines: [...keys].map((key) => movedTogether(gadget, spec, offs, key)), leftOver, ...ends };
  } catch (error) {
    // A line that does not run, what a fit leaves where nobody knows it, or a constant at the end of what it may be.
    if (error instanceof RangeError) return null;
    throw error;
  }
}

/** A line that the readings are made of, and the calibration that it rests on. */
interface Part {
  readonly channel: Channel;
  readonly spec: LineSpec;
  readonly used: Calibration | null;
}

/** The line off in one way by so many standard uncertainties. */
type Off = (spec: LineSpec, times: number) => LineSpec;

const leftKey = (used: Calibration) => `the remaining fit error of ${used.id}`;

/**
 * The ways in which one line may be off, by what makes them so: lines that share a calibration, a cause that the maker named,
 * or the stages of a channel that both go on from are off together.
 */
function offsOf(
  gadget: Gadget,
  { channel, spec, used }: Part,
  calibrations: readonly Calibration[],
): Map<string, Off> {
  const owner = trueUpChannel(gadget, channel);
  const ofOwner = new Set(truedStages(gadget, channel, calibrations).map((s) => s.id));
  const covariance = used && covarianceOf(gadget, channel, calibrations, used);
  const offs = new Map<string, Off>();
  for (const way of waysOff(spec, covariance)) {
    const { of } = way;
    const key =
      of.kind === 'fitted'
        ? `component ${of.way} of ${used!.id}`
        : of.kind === 'cause'
          ? `everything with the cause ${of.cause}`
          : `${of.param} of ${of.stageId} of ${ofOwner.has(of.stageId) ? owner.id : channel.id}`;
    offs.set(key, (line, times) => withWayOff(line, way, times));
  }
  const most = largestLeftOver(covariance?.leftOver ?? 0);
  // Where the fit leaves it is behind the stages that were calibrated: at the end, or where others go on from them.
  const place = spec.stages.filter((s) => !s.off && ofOwner.has(s.id)).length;
  if (used && most !== 0) offs.set(leftKey(used), (line, times) => offAt(line, place, times * known(most)));
  return offs;

  function known(left: number): number {
    if (Number.isNaN(left))
      throw new RangeError(`${channel.name}: the remaining error of its fit is unknown.`);
    return left;
  }
}

/**
 * The whole line with all of its parts off that one thing puts off.
 * @throws {RangeError} when a constant cannot be moved either way
 */
function movedTogether(
  gadget: Gadget,
  spec: LineSpec,
  [own, ...others]: readonly ReadonlyMap<string, Off>[],
  key: string,
): LineSpec {
  const { sampleRateHz } = gadget;
  for (const times of [MOVED_BY, -MOVED_BY])
    try {
      const moved = own!.get(key)?.(spec, times) ?? spec;
      const beside = moved.beside?.map((of, k) => {
        const { sources, stages } = others[k]!.get(key)?.(of, times) ?? of;
        compileLine({ sources, stages }, { sampleRateHz, slowestHz: of.slowestHz });
        return { ...of, sources, stages };
      });
      const whole = beside ? { ...moved, beside } : moved;
      compileLine(whole, { sampleRateHz });
      return whole;
    } catch (error) {
      if (!(error instanceof RangeError)) throw error;
    }
  throw new RangeError(
    `Cannot vary ${key} by its uncertainty: the value would leave the range that its stage allows.`,
  );
}
