import { calibratedLine } from '../calibrate/calibratedLine.ts';
import { stageKind } from '../line/registry.ts';
import type { Calibration } from '../model/calibration.ts';
import type { Channel, Gadget } from '../model/gadget.ts';
import type { BesideLine, LineSpec, OwnLine, StageSpec } from '../model/line.ts';

type Channels = Pick<Gadget, 'channels'>;

/**
 * A channel's stages from the raw columns on: behind those of the channel that it goes on from, if it does, with the
 * calibrations that are in use, and with the lines of other channels that its stages over channels take.
 * @param calibrations none for the line as bought
 * @param own another line for the channel itself, such as a draft
 */
export function wholeLine(
  gadget: Channels,
  channel: Channel,
  calibrations: readonly Calibration[],
  own: OwnLine = channel.line,
): LineSpec {
  const { line } = throughFeeds(gadget, channel, calibrations, own, []);
  const ids = [...new Set(line.stages.flatMap(othersOf))];
  if (!line.stages.some(isOverChannels)) return line;
  return {
    ...line,
    beside: ids.flatMap((channelId): BesideLine[] => {
      const other = channelId === channel.id ? undefined : gadget.channels.find((c) => c.id === channelId);
      return other ? [{ channelId, ...feltLine(throughFeeds(gadget, other, calibrations).line) }] : [];
    }),
  };
}

/** A line without what is put right by other channels: its reading as it is felt. */
export const feltLine = ({ sources, stages }: LineSpec): OwnLine => ({
  sources,
  stages: stages.filter((s) => !isOverChannels(s)),
});

/** Whether a stage takes what other channels read. */
export const isOverChannels = (stage: StageSpec): boolean =>
  !stage.off && stageKind(stage.kind)?.over !== undefined;

const othersOf = (stage: StageSpec): readonly string[] =>
  isOverChannels(stage) ? stageKind(stage.kind)!.over!.channels(stage.params) : [];

interface FedLine {
  readonly line: OwnLine;
  /** Ids of its last stages as the channel itself has them. */
  readonly own: readonly string[];
  /** So many of its first stages are those of the channel at the beginning of all feeds. */
  readonly first: number;
}

function throughFeeds(
  gadget: Channels,
  channel: Channel,
  calibrations: readonly Calibration[],
  own: OwnLine = channel.line,
  seen: readonly string[] = [],
): FedLine {
  const { line } = calibratedLine(own, channel.id, calibrations);
  const ids = line.stages.map((s) => s.id);
  const { feed } = channel;
  const parent = feed && gadget.channels.find((c) => c.id === feed.channelId);
  // A channel that has left, or that goes on from this one, feeds nothing: what is left does not run, and says so.
  if (!parent || seen.includes(channel.id)) return { line, own: ids, first: line.stages.length };
  const before = throughFeeds(gadget, parent, calibrations, parent.line, [...seen, channel.id]);
  const { sources, stages } = before.line;
  const fed = stages.length - before.own.length;
  const kept = feed.stageId === null ? stages : stages.slice(0, fed + before.own.indexOf(feed.stageId) + 1);
  return {
    line: { sources, stages: [...kept, ...withOtherIds(line.stages, kept, channel.id)] },
    own: ids,
    first: Math.min(before.first, kept.length),
  };
}

/** Ids are unique in one channel only: a constant that is moved in a whole line must be that of one stage. */
function withOtherIds(
  stages: readonly StageSpec[],
  before: readonly StageSpec[],
  channelId: string,
): StageSpec[] {
  const taken = new Set(before.map((s) => s.id));
  return stages.map((stage) => {
    let { id } = stage;
    while (taken.has(id)) id = `${id}-of-${channelId}`;
    taken.add(id);
    return id === stage.id ? stage : { ...stage, id };
  });
}

/** The first stages of a channel's whole line that are those of the channel whose calibration it rests on. */
export function truedStages(
  gadget: Channels,
  channel: Channel,
  calibrations: readonly Calibration[],
): readonly StageSpec[] {
  const { line, first } = throughFeeds(gadget, channel, calibrations);
  return line.stages.slice(0, first);
}

/** The calibration that a channel's readings rest on; null as bought, and where the line cannot be read by it. */
export function calibrationInUse(
  gadget: Channels,
  channel: Channel,
  calibrations: readonly Calibration[],
): Calibration | null {
  const owner = trueUpChannel(gadget, channel);
  return calibratedLine(owner.line, owner.id, calibrations).calibration;
}

/** The channel whose calibration a channel's readings rest on: itself, or the first that it goes on from. */
export function trueUpChannel(gadget: Channels, channel: Channel): Channel {
  const seen = [channel.id];
  let now = channel;
  for (;;) {
    const parent = now.feed && gadget.channels.find((c) => c.id === now.feed!.channelId);
    if (!parent || seen.includes(parent.id)) return now;
    seen.push(parent.id);
    now = parent;
  }
}
