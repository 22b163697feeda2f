import type { ReadingBudget } from '../figures/index.ts';
import { leftOverAt, lineUncertainty, MOVED_BY, type CompiledLine, type LineMemory } from '../line/index.ts';
import type { LeftOver } from '../model/calibration.ts';
import type { LineSpec } from '../model/line.ts';
import { shortWay } from '../numerics/index.ts';
import type { RawRows } from './rawLanes.ts';
import { createReadout, type ReadoutChannel, type ReadoutSpec } from './readout.ts';
import { SeenWorth, type SeenWorthMemory } from './seenWorth.ts';

/** How readings are found out about whose line cannot be walked back to raw values. */
export interface ShadowSpec {
  /** The line with its constants moved by a tenth of what they are uncertain by, once for each way they may be off. */
  readonly lines: readonly LineSpec[];
  /** What the fit leaves unexplained. */
  readonly leftOver: LeftOver;
  /** Readings that are asked for, in the reading's unit. */
  readonly low: number;
  readonly high: number;
}

export interface ShadowMemory {
  readonly lines: readonly (LineMemory | null)[];
  /** Readings that wait for those of the moved lines. */
  readonly own: readonly Timed[];
  readonly others: readonly (readonly Timed[])[];
  /** Readings of the moved lines that lie ahead of the channel's own. */
  readonly ahead: readonly (readonly Timed[])[];
  readonly seen: SeenWorthMemory;
  readonly newest: ReadingBudget | null;
}

/** The moved lines of one channel at work beside it: they tell what each of its readings is worth. */
export interface Shadow {
  /** Rows, before the channel's own readings of them are told. */
  feed(rows: RawRows): void;
  /** @param rawOf raw values of the line's sources at that moment; null where they are not at hand */
  reading(timeS: number, x: number, rawOf: () => readonly number[] | null): void;
  /** Standard uncertainties of a reading of this size; NaN where none was seen. */
  at(value: number): ReadingBudget;
  /** Of the newest reading; null before the first. */
  newest(): ReadingBudget | null;
  save(): ShadowMemory;
  restore(saved: ShadowMemory): void;
  /** Goes on from where the channel's own line stood, so that nothing differs that the constants do not make. */
  restoreLine(saved: LineMemory): void;
}

type Timed = readonly [timeS: number, x: number];

/** Readings that wait at the most: of a line whose moved ones have lost it, the oldest are let go. */
const MOST_WAITING = 64;

/**
 * Readings that come now and then, such as those of whole cycles, come a little sooner or later when a constant moves:
 * within two rows they are the same reading.
 */
export function createShadow(
  readout: Omit<ReadoutSpec, 'channels'>,
  channel: ReadoutChannel,
  line: CompiledLine,
  spec: ShadowSpec,
  isDirection: boolean,
): Shadow {
  const moved = createReadout({
    ...readout,
    channels: spec.lines.map((of, k) => ({ ...channel, id: `${channel.id}/${k}`, line: of })),
  });
  const problem = moved.lines.find((l) => l.problem)?.problem;
  if (problem) throw problem;
  const nearS = 2 / readout.sampleRateHz;
  const seen = new SeenWorth(spec.low, spec.high);
  let own: Timed[] = [];
  let others: Timed[][] = spec.lines.map(() => []);
  let ahead: Timed[][] = spec.lines.map(() => []);
  let newest: ReadingBudget | null = null;
  const differ = isDirection ? (a: number, b: number) => shortWay(a, b) : (a: number, b: number) => b - a;

  /** Whether the first reading of a moved line belongs to an earlier one of the channel's own. */
  const isBehind = ([first, second]: readonly Timed[], timeS: number) =>
    first![0] < timeS - nearS ||
    (second !== undefined && Math.abs(second[0] - timeS) <= Math.abs(first![0] - timeS));

  /** Tells what the oldest waiting reading is worth; false while one of the moved lines has not come to it. */
  function settle(rawOf: () => readonly number[] | null): boolean {
    const [timeS, x] = own[0]!;
    let squares = leftOverAt(spec.leftOver, x) ** 2;
    for (const queue of others) {
      while (queue.length > 0 && isBehind(queue, timeS)) queue.shift();
      const head = queue[0];
      if (!head) return false;
      squares += head[0] <= timeS + nearS ? (differ(x, head[1]) / MOVED_BY) ** 2 : Number.NaN;
    }
    own.shift();
    for (const queue of others) if (queue[0]![0] <= timeS + nearS) queue.shift();
    if (!Number.isFinite(squares)) return true;
    const systematic = Math.sqrt(squares);
    seen.take(x, systematic, () => {
      const raw = rawOf();
      return raw?.every(Number.isFinite) ? lineUncertainty(line, raw, 0, null).at(-1)!.noise : Number.NaN;
    });
    newest = { systematic, noise: seen.at(x).noise };
    return true;
  }

  return {
    feed(rows) {
      moved.feed(rows, (k, stages) => {
        const { length, times, lanes } = stages.at(-1)!;
        const { values } = lanes[0]!;
        for (let i = 0; i < length; i++)
          if (Number.isFinite(values[i]!)) ahead[k]!.push([times[i]!, values[i]!]);
      });
    },
    reading(timeS, x, rawOf) {
      ahead.forEach((queue, k) => {
        while (queue.length > 0 && queue[0]![0] <= timeS) others[k]!.push(queue.shift()!);
        if (others[k]!.length > MOST_WAITING) others[k]!.splice(0, others[k]!.length - MOST_WAITING);
      });
      if (!Number.isFinite(x)) return;
      own.push([timeS, x]);
      if (own.length > MOST_WAITING) own.shift();
      while (own.length > 0 && settle(rawOf));
    },
    at: (value) => seen.at(value),
    newest: () => newest,
    save: () => ({
      lines: spec.lines.map((_, k) => moved.saveChannel(k)),
      own: [...own],
      others: others.map((queue) => [...queue]),
      ahead: ahead.map((queue) => [...queue]),
      seen: seen.save(),
      newest,
    }),
    restore(saved) {
      // Of another calibration there may be more or fewer: it goes on from the newest rows alone.
      if (saved.lines.length !== spec.lines.length) return;
      saved.lines.forEach((memory, k) => memory && moved.restoreChannel(k, memory));
      own = [...saved.own];
      others = saved.others.map((queue) => [...queue]);
      ahead = saved.ahead.map((queue) => [...queue]);
      seen.restore(saved.seen);
      newest = saved.newest;
    },
    restoreLine(saved) {
      spec.lines.forEach((_, k) => moved.restoreChannel(k, saved));
    },
  };
}
