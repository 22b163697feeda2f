import { compileLine, stageFaults, type CompiledLine, type StageFaults } from '@lucky-needle/core/line';
import type { LineSpec } from '@lucky-needle/core/model';
import { lowerBound } from '@lucky-needle/core/numerics';

/** A recording's raw columns as the worker holds them. */
export interface RawRecording {
  readonly times: Float64Array;
  readonly columns: ReadonlyMap<string, Float64Array>;
  readonly sampleRateHz: number;
}

export interface ViewWanted {
  readonly spec: LineSpec;
  /** Stages to draw: 0 raw, k after stage k. */
  readonly taps: readonly number[];
  readonly fromS: number;
  readonly toS: number;
  /** About how many points a curve may have. */
  readonly points: number;
}

export interface DrawnCurve {
  readonly times: Float64Array;
  readonly values: Float64Array;
}

export interface RecordingView {
  readonly curves: readonly DrawnCurve[];
  readonly faults: readonly StageFaults[];
  /** Samples that were looked at. */
  readonly samples: number;
}

/** Samples that filters get before the stretch that is looked at, so that they have forgotten their start. */
const WARM_UP = 20_000;
/** Between two looks at whether the work is still wanted. */
const PIECE = 262_144;

/**
 * Runs a stretch of a recording through a line and thins the columns after the chosen stages, piece by piece: each point of
 * time gives its lowest and highest reading, so that a peak is never lost.
 * @param pause called after each piece with the share done; it rejects to stop the work
 * @throws {LineError} for a line that does not run; {RangeError} for a column that the recording has not
 */
export async function viewRecording(
  raw: RawRecording,
  wanted: ViewWanted,
  pause: (share: number) => Promise<void>,
): Promise<RecordingView> {
  const line = compileLine(wanted.spec, { sampleRateHz: raw.sampleRateHz });
  const lanes = line.sources.map((source) => {
    const column = raw.columns.get(source.name);
    if (!column)
      throw new RangeError(
        `The recording has no column "${source.name}". It has ${[...raw.columns.keys()].join(', ')}.`,
      );
    return column;
  });
  const first = lowerBound(raw.times, wanted.fromS);
  const last = Math.min(raw.times.length, lowerBound(raw.times, wanted.toS) + 1);
  const start = Math.max(0, first - WARM_UP);
  const thin = wanted.taps.map(() => thinner(wanted.fromS, wanted.toS, wanted.points, last - first));
  const counts = countsOf(line);
  const run = line.start(line.stages.map((_, k) => k + 1));
  for (let from = start; from < last; from += PIECE) {
    const to = Math.min(last, from + PIECE);
    run.process(
      {
        length: to - from,
        times: raw.times.subarray(from, to),
        lanes: lanes.map((values) => ({
          values: values.subarray(from, to),
          reasons: new Uint8Array(to - from),
        })),
      },
      (blocks) => {
        wanted.taps.forEach((tap, i) => {
          const { times, lanes: after, length } = blocks[tap]!;
          thin[i]!.add(times, after[0]!.values, length);
        });
        blocks.forEach((block, k) => counts.add(k, block.lanes[0]!.reasons, block.length));
      },
    );
    await pause((to - start) / (last - start));
  }
  return { curves: thin.map((t) => t.curve()), faults: counts.faults(), samples: last - first };
}

/** Collects the first columns' reasons of every stage without keeping them. */
function countsOf(line: CompiledLine) {
  const tallies = [0, ...line.stages].map(() => ({ length: 0, byReason: new Map<number, number>() }));
  return {
    add(stage: number, reasons: Uint8Array, length: number): void {
      const tally = tallies[stage]!;
      tally.length += length;
      for (let i = 0; i < length; i++) {
        const reason = reasons[i]!;
        if (reason !== 0) tally.byReason.set(reason, (tally.byReason.get(reason) ?? 0) + 1);
      }
    },
    faults: (): StageFaults[] =>
      stageFaults(
        tallies.map(({ length, byReason }) => {
          const reasons = new Uint8Array(length);
          let at = 0;
          for (const [reason, count] of byReason) {
            reasons.fill(reason, at, at + count);
            at += count;
          }
          return { reasons };
        }),
      ),
  };
}

/** Keeps all of few samples, of many the lowest and the highest of each point of time. */
function thinner(fromS: number, toS: number, points: number, samples: number) {
  const whole = samples <= points;
  const slots = Math.max(1, Math.floor(points / 2));
  const times: number[] = [];
  const values: number[] = [];
  const low = new Float64Array(whole ? 0 : slots).fill(Number.NaN);
  const high = low.slice();
  const lowAt = low.slice();
  const highAt = low.slice();
  const bad = new Uint8Array(whole ? 0 : slots);
  const scale = slots / Math.max(toS - fromS, 1e-12);
  return {
    add(t: Float64Array, v: Float64Array, length: number): void {
      for (let i = 0; i < length; i++) {
        const at = t[i]!;
        if (at < fromS || at > toS) continue;
        const value = v[i]!;
        if (whole) {
          times.push(at);
          values.push(value);
          continue;
        }
        const slot = Math.min(slots - 1, Math.floor((at - fromS) * scale));
        if (Number.isNaN(value)) {
          bad[slot] = 1;
          continue;
        }
        if (!(value >= low[slot]!)) {
          low[slot] = value;
          lowAt[slot] = at;
        }
        if (!(value <= high[slot]!)) {
          high[slot] = value;
          highAt[slot] = at;
        }
      }
    },
    curve(): DrawnCurve {
      if (!whole)
        for (let s = 0; s < slots; s++) {
          if (Number.isNaN(low[s]!)) {
            // Nothing but bad samples draws as a gap; no sample at all draws as nothing.
            if (bad[s]) {
              times.push(fromS + (s + 0.5) / scale);
              values.push(Number.NaN);
            }
            continue;
          }
          const firstIsLow = lowAt[s]! <= highAt[s]!;
          times.push(firstIsLow ? lowAt[s]! : highAt[s]!);
          values.push(firstIsLow ? low[s]! : high[s]!);
          if (lowAt[s] === highAt[s]) continue;
          times.push(firstIsLow ? highAt[s]! : lowAt[s]!);
          values.push(firstIsLow ? high[s]! : low[s]!);
        }
      return { times: Float64Array.from(times), values: Float64Array.from(values) };
    },
  };
}
