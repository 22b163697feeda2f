import { expose } from 'comlink';
import {
  cloudCoverage,
  steadyWindow,
  type SphereCoverage,
  type SteadyLimits,
  type SteadyState,
} from '@lucky-needle/core/calibrate';
import { adviseFilters, hasFilterTraits, lineColumns, stageKind, type Advice } from '@lucky-needle/core/line';
import type {
  ChannelBrief,
  Evidence,
  FitResult,
  Gadget,
  LineSpec,
  NowFigure,
  SeenEvent,
} from '@lucky-needle/core/model';
import { detectorKind, type Finding, type Trace } from '@lucky-needle/core/detect';
import { nowFigures, seenEvent } from '@lucky-needle/core/plan';
import { createReadout, createWatchedReadout, History, type WatchedSpec } from '@lucky-needle/core/reading';
import { previewGuided } from './previewGuided.ts';

/** Readings that the advice looks at. */
const ADVISED = 20_000;

export interface RawColumns {
  readonly times: Float64Array;
  /** One for each column that the line is run on, in their order. */
  readonly columns: readonly Float64Array[];
}

export interface TriedLine extends RawColumns {
  readonly spec: LineSpec;
  readonly rateHz: number;
  readonly slowestHz: number | undefined;
  readonly warmUpS: number;
  /** How far back readings are told, s. */
  readonly seconds: number;
}

export interface TriedCounts {
  readonly problem: string | null;
  /** What the problem is with. */
  readonly problemId: string | null;
  readonly figures: readonly NowFigure[];
  readonly events: readonly SeenEvent[];
}

interface Tried {
  readonly times: Float64Array;
  readonly values: Float64Array;
  readonly reasons: Float64Array;
}

/** What takes the page too long to do itself. */
const work = {
  /** A line that is tried over the newest rows: the readings after each stage. */
  tryLine({ spec, rateHz, slowestHz, warmUpS, seconds, times, columns }: TriedLine): Tried[] {
    const readout = createReadout({
      columns: lineColumns(spec),
      sampleRateHz: rateHz,
      channels: [{ id: 'tried', line: spec, slowestHz, warmUpS }],
    });
    const stages = readout.lines[0]!.line?.stages.map(() => new History(seconds, Infinity, 2)) ?? [];
    readout.feed({ length: times.length, times, columns }, (_channel, blocks) => {
      stages.forEach((history, k) => {
        const block = blocks[k + 1]!;
        history.add(block.times, [block.lanes[0]!.values, block.lanes[0]!.reasons], block.length);
      });
    });
    return stages.map((history) => ({
      times: history.times.slice(),
      values: history.column(0).slice(),
      reasons: history.column(1).slice(),
    }));
  },

  /** What counts on one channel of a gadget that is being tried, over the newest rows. */
  tryCounts(
    gadget: Gadget,
    channelId: string,
    spec: WatchedSpec,
    { times, columns }: RawColumns,
  ): TriedCounts {
    const readout = createWatchedReadout(spec);
    const k = spec.channels.findIndex((c) => c.id === channelId);
    const events: SeenEvent[] = [];
    readout.feed(
      { length: times.length, times, columns },
      () => undefined,
      (channel, event) => {
        if (channel === k) events.push(seenEvent(event));
      },
    );
    const channel = gadget.channels.find((c) => c.id === channelId)!;
    return {
      problem: readout.problems[k]?.message ?? null,
      problemId: readout.problems[k]?.id ?? null,
      figures: nowFigures(gadget, channel, readout.figures(k)),
      events,
    };
  },

  /** Parameters of a detector, found in readings. */
  propose: (kind: string, trace: Trace): Finding =>
    detectorKind(kind)?.find?.(trace) ?? {
      problem: 'This event detector has no settings that can be proposed from readings.',
    },

  /** How much of the sphere a cloud of vectors covers, as the fit of it sees it. */
  directions: (rows: readonly (readonly [number, number, number])[]): SphereCoverage => cloudCoverage(rows),

  /** Whether raw readings stand still. @param lastCode the converter's last code; infinite where there is none */
  steady(times: Float64Array, values: Float64Array, limits: SteadyLimits, lastCode: number): SteadyState {
    return steadyWindow(times, values, isWithin(values, lastCode), limits);
  },

  /** Filters for readings before any filter; null when they tell too little. */
  advise(spec: LineSpec, brief: ChannelBrief, rateHz: number, { times, columns }: RawColumns): Advice | null {
    const conversions = { ...spec, stages: spec.stages.filter((s) => !isFilter(s.kind)) };
    const readout = createReadout({
      columns: lineColumns(spec),
      sampleRateHz: rateHz,
      channels: [{ id: 'advised', line: conversions }],
    });
    const { line, problem } = readout.lines[0]!;
    if (!line) throw problem!;
    const readings = new History(Infinity, ADVISED, 1);
    const length = Math.min(times.length, ADVISED);
    readout.feed({ length, times, columns }, (_channel, stages) => {
      const block = stages.at(-1)!;
      readings.add(block.times, [block.lanes[0]!.values], block.length);
    });
    return adviseFilters(readings.column(0), line.outputRateHz, brief, line.outputs[0]!.unit);
  },

  /** A guided true-up from pieces that are not stored yet. */
  guided(
    fitId: string,
    line: LineSpec,
    pieces: readonly { readonly evidence: Evidence }[],
    sampleRateHz: number,
  ): FitResult | string {
    return previewGuided(fitId, line, pieces, sampleRateHz);
  },
};

/** Only a converter's end codes mean that it cannot tell; other columns have no ends. */
const isWithin = (values: Float64Array, lastCode: number) => (i: number) =>
  Number.isFinite(values[i]) && (lastCode === Infinity || (values[i]! > 0 && values[i]! < lastCode));

function isFilter(kind: string): boolean {
  const found = stageKind(kind);
  return found !== undefined && hasFilterTraits(found);
}

export type BenchWork = typeof work;

expose(work);
