import { compileLine } from '../line/compile.ts';
import type { CompiledLine, LineMemory } from '../line/compiledLine.ts';
import type { LineSpec, StageSpec } from '../model/line.ts';
import { roomFor } from '../stage/roomFor.ts';
import { LineError, REASON, type Block, type LaneData } from '../stage/contract.ts';
import { emptyBlock } from '../stage/emptyBlock.ts';
import type { OtherLine } from './beside.ts';
import { startBranch, type Branch } from './branch.ts';
import { lanesFrom, type RawRows } from './rawLanes.ts';

export interface ReadoutChannel {
  readonly id: string;
  /** The whole line from the raw columns on, with the calibrations in use. */
  readonly line: LineSpec;
  /** Slowest rate that the brief asks for, Hz. */
  readonly slowestHz?: number | undefined;
  /** Readings before this time are still warming up, s on the gadget's own clock; 0 when it needs no warm-up. */
  readonly warmUpS?: number | undefined;
}

export interface ReadoutSpec {
  /** Raw columns that are fed, in their order. */
  readonly columns: readonly string[];
  /** Rows a second. */
  readonly sampleRateHz: number;
  readonly channels: readonly ReadoutChannel[];
  /** Whether of the stages before the reading only lengths and reasons are looked at, which is faster. */
  readonly readingsOnly?: boolean;
}

export interface ReadoutLine {
  readonly id: string;
  /** Null when it cannot run. */
  readonly line: CompiledLine | null;
  /** Why it cannot run. */
  readonly problem: LineError | null;
}

/**
 * Takes what one channel makes of a piece of at most 4096 rows.
 * @param stages index 0 raw, index k after stage k, the last one the reading, which says itself while it is warming up;
 *   all are used again: copy what must be kept
 */
export type TakeStages = (channel: number, stages: readonly Block[]) => void;

/** What the stages of every channel remember, as plain data; null for channels that cannot run. */
export interface ReadoutMemory {
  readonly trunks: readonly LineMemory[];
  readonly branches: readonly (LineMemory | null)[];
}

/** Raw rows in, readings out: the one way in which readings are made, live and of recordings. */
export interface Readout {
  readonly lines: readonly ReadoutLine[];
  /** Rows in order, in pieces of any length: however they are cut, the readings are the same to the bit. */
  feed(rows: RawRows, take: TakeStages): void;
  save(): ReadoutMemory;
  /** Goes on from there as if it had never stopped. @throws {RangeError} when it is another readout's */
  restore(saved: ReadoutMemory): void;
  /** What one channel's stages remember, whatever it shares with others; null for one that cannot run. */
  saveChannel(channel: number): LineMemory | null;
  /** Goes on from there with that channel, and with what it shares. @throws {RangeError} when it is another line's */
  restoreChannel(channel: number, saved: LineMemory): void;
}

interface Channel extends ReadoutLine {
  readonly warmUpS: number;
  /** Places of its raw columns among those that are fed. */
  readonly from: readonly number[];
  /** The channels that its stages over channels take, by id. */
  readonly others: ReadonlyMap<string, OtherLine>;
  readonly slowestHz: number | undefined;
}

/**
 * Leading stages that several channels share, such as the power of one pair of columns, are run once for all of them. A
 * channel that cannot run says why and takes no other with it.
 */
export function createReadout(spec: ReadoutSpec): Readout {
  const channels = spec.channels.map((channel) => compileChannel(spec, channel));
  const shared = sharedTrunks(channels);
  const trunks = shared.map(({ members, depth }) => {
    const { line, from, slowestHz } = channels[members[0]!]!;
    const trunk = compileLine(
      { ...line!.spec, stages: line!.stages.slice(0, depth).map((s) => s.spec) },
      { sampleRateHz: spec.sampleRateHz, slowestHz },
    );
    return { run: trunk.start(spec.readingsOnly ? [] : undefined), from, members, line: trunk };
  });
  const branches: (Branch | null)[] = channels.map(() => null);
  trunks.forEach(({ members, line: trunk }) => {
    for (const k of members) branches[k] = branchOf(channels[k]!, trunk);
  });
  const warm = channels.map(({ line }) => (line ? new WarmUp(line.outputs.length) : null));

  return {
    lines: channels,
    feed(rows, take) {
      for (const branch of branches) branch?.hear(rows);
      for (const { run, from, members } of trunks) {
        run.process(lanesFrom(rows, from), (blocks) => {
          const end = blocks.at(-1)!;
          for (const k of members) {
            const { warmUpS } = channels[k]!;
            const give = (behind: readonly Block[]) => {
              const stages = [...blocks, ...behind];
              const last = stages.length - 1;
              if (warmUpS > 0) stages[last] = warm[k]!.through(stages[last]!, warmUpS);
              take(k, stages);
            };
            branches[k]!.process(end, give);
          }
        });
      }
    },
    save: () => ({
      trunks: trunks.map(({ run }) => run.save()),
      branches: branches.map((run) => run?.save() ?? null),
    }),
    saveChannel(channel) {
      const trunk = trunks.find(({ members }) => members.includes(channel));
      if (!trunk) return null;
      return { stages: [...trunk.run.save().stages, ...branches[channel]!.save().stages] };
    },
    restoreChannel(channel, saved) {
      const trunk = trunks.find(({ members }) => members.includes(channel));
      const own = channels[channel]?.line?.stages.length;
      if (!trunk || saved.stages.length !== own)
        throw new RangeError(
          `The saved state has ${saved.stages.length} stages, but this channel has ${own ?? 0}. Start again.`,
        );
      const depth = trunk.line.stages.length;
      trunk.run.restore({ stages: saved.stages.slice(0, depth) });
      branches[channel]!.restore({ stages: saved.stages.slice(depth) });
    },
    restore(saved) {
      if (saved.trunks.length !== trunks.length || saved.branches.length !== branches.length)
        throw new RangeError(
          `The saved state has ${saved.branches.length} channels, but this readout has ${branches.length}. Start again.`,
        );
      trunks.forEach(({ run }, k) => run.restore(saved.trunks[k]!));
      branches.forEach((run, k) => {
        const memory = saved.branches[k];
        if (memory) run?.restore(memory);
      });
    },
  };
}

function compileChannel(spec: ReadoutSpec, channel: ReadoutChannel): Channel {
  const { id, slowestHz, warmUpS = 0 } = channel;
  try {
    const line = compileLine(channel.line, {
      sampleRateHz: spec.sampleRateHz,
      slowestHz,
    });
    const lone = line.stages.find((s) => s.kind.over && !channel.line.beside);
    if (lone)
      throw new LineError(
        lone.spec,
        `${lone.kind.title} needs readings of other channels, which are not available here. Use it only in the gadget’s own line.`,
      );
    const from = placesOf(line, spec.columns);
    const others = new Map(
      [...line.beside].map(([other, of]): [string, OtherLine] => [
        other,
        {
          line: of,
          from: placesOf(of, spec.columns),
          warmUpS: channel.line.beside!.find((b) => b.channelId === other)!.warmUpS ?? 0,
        },
      ]),
    );
    return { id, line, problem: null, warmUpS, from, others, slowestHz };
  } catch (error) {
    if (!(error instanceof LineError)) throw error;
    return { id, line: null, problem: error, warmUpS, from: [], others: new Map(), slowestHz };
  }
}

/** Places of a line's sources among the columns that are fed. @throws {LineError} where one is missing */
function placesOf(line: CompiledLine, columns: readonly string[]): number[] {
  return line.sources.map(({ name }) => {
    const at = columns.indexOf(name);
    if (at < 0)
      throw new LineError(
        null,
        `No raw column “${name}”. Available columns: ${columns.join(', ') || 'none'}. Choose another source on the Line page.`,
      );
    return at;
  });
}

interface Shared {
  /** Channels that begin alike. */
  readonly members: readonly number[];
  /** Stages that they have in common. */
  readonly depth: number;
}

/** Groups channels of the same raw columns whose first stage is the same, each with the stages that all of it share. */
function sharedTrunks(channels: readonly Channel[]): Shared[] {
  const groups = new Map<string, number[]>();
  channels.forEach(({ line, from, slowestHz }, k) => {
    if (!line) return;
    const first = line.stages[0];
    const key = JSON.stringify([from, line.sources, slowestHz, first ? sameness(first.spec) : k]);
    groups.set(key, [...(groups.get(key) ?? []), k]);
  });
  return [...groups.values()].map((members) => {
    const stages = members.map((k) => channels[k]!.line!.stages);
    const most = Math.min(...stages.map((s) => s.length));
    let depth = 0;
    while (
      depth < most &&
      !stages[0]![depth]!.kind.over &&
      new Set(stages.map((s) => sameness(s[depth]!.spec))).size === 1
    )
      depth++;
    return { members, depth };
  });
}

const sameness = ({ kind, params }: StageSpec) => JSON.stringify([kind, params]);

/** The stages of a channel that come behind its trunk. */
const branchOf = ({ line, others, slowestHz }: Channel, trunk: CompiledLine): Branch =>
  startBranch(line!.stages.slice(trunk.stages.length), trunk, slowestHz, ({ kind, spec }) =>
    kind.over!.channels(spec.params).map((id) => others.get(id)!),
  );

/** Marks readings as still warming up in a copy: a filter behind must not be told. */
class WarmUp {
  private readonly lanes: LaneData[];
  private room = 0;

  constructor(lanes: number) {
    this.lanes = emptyBlock(lanes).lanes;
  }

  through(block: Block, warmUpS: number): Block {
    const { length, times } = block;
    if (length === 0 || times[0]! >= warmUpS) return block;
    if (this.room < length) {
      this.room = roomFor(length);
      this.lanes.forEach((_, k) => {
        this.lanes[k] = { values: new Float64Array(this.room), reasons: new Uint8Array(this.room) };
      });
    }
    block.lanes.forEach((lane, k) => {
      const { values, reasons } = this.lanes[k]!;
      values.set(lane.values.subarray(0, length));
      reasons.set(lane.reasons.subarray(0, length));
      for (let i = 0; i < length && times[i]! < warmUpS; i++) {
        values[i] = Number.NaN;
        reasons[i] = REASON.warmingUp;
      }
    });
    return { length, times, lanes: this.lanes };
  }
}
