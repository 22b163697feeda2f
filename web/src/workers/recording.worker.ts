import { expose, transfer } from 'comlink';
import { steadyWindow, type SteadyLimits, type SteadyState } from '@lucky-needle/core/calibrate';
import { decodeSampleBlock } from '@lucky-needle/core/formats';
import {
  adviseFilters,
  compileLine,
  hasFilterTraits,
  runLine,
  stageKind,
  type Advice,
} from '@lucky-needle/core/line';
import type { ChannelBrief, LineSpec, Recording } from '@lucky-needle/core/model';
import { lowerBound } from '@lucky-needle/core/numerics';
import { viewRecording, type RawRecording, type RecordingView, type ViewWanted } from './recordingView.ts';

/** Samples of one request; a recording of millions comes in several. */
const FETCHED = 500_000;
/** Readings that the advice looks at. */
const ADVISED = 20_000;

let held: { key: string; raw: RawRecording } | null = null;
let loading: { key: string; raw: Promise<RawRecording> } | null = null;
let wantedJob = 0;
let wantedLoad = 0;
let toldOfLoad: (share: number) => void = () => {};

class Cancelled extends Error {}

/** Lets messages in, such as a cancel. */
const breathe = () => new Promise((done) => setTimeout(done, 0));

/** Cut anew, a recording keeps its id but not its samples. */
const keyOf = ({ id, sampleCount, firstTimeS }: Recording) => [id, sampleCount, firstTimeS].join(' ');

/** The recording that is held, or the one that is coming; a wish for another ends it. */
function load(recording: Recording): Promise<RawRecording> {
  const key = keyOf(recording);
  if (held?.key === key) return Promise.resolve(held.raw);
  if (loading?.key === key) return loading.raw;
  held = null;
  const raw = fetchAll(recording, ++wantedLoad).finally(() => {
    if (loading?.key === key) loading = null;
  });
  loading = { key, raw };
  return raw;
}

async function fetchAll(recording: Recording, job: number): Promise<RawRecording> {
  const count = recording.sampleCount;
  const times = new Float64Array(count);
  const columns = recording.columns.map(() => new Float64Array(count));
  const pieceS = FETCHED / recording.sampleRateHz;
  const half = 0.5 / recording.sampleRateHz;
  const lastS = recording.lastTimeS ?? 0;
  let at = 0;
  for (let from = recording.firstTimeS ?? 0; from <= lastS; from += pieceS) {
    const to = from + pieceS - half;
    const response = await fetch(`/api/recordings/${recording.id}/window?from=${from - half}&to=${to}`);
    if (!response.ok) throw new Error(`The samples did not come (${response.status}). Try again.`);
    const block = decodeSampleBlock(await response.arrayBuffer());
    const room = Math.min(block.times.length, count - at);
    times.set(block.times.subarray(0, room), at);
    columns.forEach((column, k) => column.set(block.columns[k]!.subarray(0, room), at));
    at += room;
    toldOfLoad(at / count);
    await breathe();
    if (job !== wantedLoad) throw new Cancelled();
  }
  const raw: RawRecording = {
    times: times.subarray(0, at),
    columns: new Map(recording.columns.map((c, k) => [c.name, columns[k]!.subarray(0, at)])),
    sampleRateHz: recording.sampleRateHz,
  };
  held = { key: keyOf(recording), raw };
  return raw;
}

const work = {
  /** What is wanted of a recording; the answer is null when something newer was wanted meanwhile. */
  async view(
    recording: Recording,
    wanted: ViewWanted,
    told: (stage: 'fetching' | 'converting', share: number) => void,
  ): Promise<RecordingView | null> {
    const job = ++wantedJob;
    try {
      toldOfLoad = (share) => told('fetching', share);
      const raw = await load(recording);
      const view = await viewRecording(raw, wanted, async (share) => {
        told('converting', share);
        await breathe();
        if (job !== wantedJob) throw new Cancelled();
      });
      return transfer(
        view,
        view.curves.flatMap((c) => [c.times.buffer, c.values.buffer]),
      );
    } catch (error) {
      if (error instanceof Cancelled) return null;
      throw error;
    }
  },

  /** A stretch of a recording's column as a steady window, judged as the live one is; seconds since the recording's start. */
  async capture(
    recording: Recording,
    column: string,
    fromS: number,
    toS: number,
    limits: SteadyLimits,
    lastCode: number,
  ): Promise<SteadyState> {
    toldOfLoad = () => {};
    const raw = await load(recording);
    const values = raw.columns.get(column);
    if (!values)
      throw new RangeError(
        `The recording has no column "${column}". It has ${[...raw.columns.keys()].join(', ')}.`,
      );
    const startS = recording.firstTimeS ?? 0;
    const first = lowerBound(raw.times, startS + fromS);
    const last = lowerBound(raw.times, startS + toS + 1e-9);
    const stretch = values.subarray(first, last);
    const good = (i: number) =>
      Number.isFinite(stretch[i]) && (lastCode === Infinity || (stretch[i]! > 0 && stretch[i]! < lastCode));
    // All of the stretch counts: the maker has marked it.
    const windowS = Math.max(0, toS - fromS - 1.5 / raw.sampleRateHz);
    return steadyWindow(raw.times.subarray(first, last), stretch, good, { ...limits, windowS });
  },

  /** Ends what is being worked on. */
  cancel(): void {
    wantedJob++;
    wantedLoad++;
  },

  /** Filters for a stretch of the recording that is held; null when it tells too little. */
  advise(spec: LineSpec, brief: ChannelBrief, fromS: number, toS: number): Advice | null {
    if (!held) return null;
    const { raw } = held;
    const conversions = { ...spec, stages: spec.stages.filter((s) => !isFilter(s.kind)) };
    const line = compileLine(conversions, { sampleRateHz: raw.sampleRateHz });
    const first = lowerBound(raw.times, fromS);
    const last = Math.min(raw.times.length, lowerBound(raw.times, toS) + 1, first + ADVISED);
    const columns = line.sources.map((s) => raw.columns.get(s.name));
    if (columns.includes(undefined)) return null;
    const lanes = columns.map((c) => ({
      values: c!.subarray(first, last),
      reasons: new Uint8Array(last - first),
    }));
    const [reading] = runLine(line, { length: last - first, times: raw.times.subarray(first, last), lanes });
    return adviseFilters(reading!.lanes[0]!.values, line.outputRateHz, brief, line.outputs[0]!.unit);
  },
};

function isFilter(kind: string): boolean {
  const found = stageKind(kind);
  return found !== undefined && hasFilterTraits(found);
}

export type RecordingWork = typeof work;

expose(work);
