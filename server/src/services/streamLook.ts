import { stageKind } from '@lucky-needle/core/line';
import type { Channel, Gadget, LineSpec, Recording, StreamLook } from '@lucky-needle/core/model';
import { briefFor, trueUpChannel, wholeLine } from '@lucky-needle/core/plan';
import { findStreamFaults, neededRateHz } from '@lucky-needle/core/prove';
import { notFound, ProblemError } from '../http/problem.ts';
import { readSamples } from '../recordings/pieces.ts';
import type { Bench } from './bench.ts';

/** Rows of a recording that are looked at: its first ones, for what happens when it is switched on. */
const MOST_ROWS = 200_000;
/** A first row so soon after its clock began came when the gadget was switched on, s. */
const SOON_S = 60;

interface Rows {
  readonly times: ArrayLike<number>;
  column(name: string): ArrayLike<number> | null;
  readonly fromStart: boolean;
}

/** What is wrong with the raw rows of a channel, live or in a recording. */
export function streamLookService(bench: Bench) {
  const { tables, knex } = bench;

  async function channelOf(gadgetId: string, channelId: string) {
    const gadget = await tables.gadgets.find(gadgetId);
    if (!gadget) throw notFound('gadget', gadgetId);
    const channel = gadget.channels.find((c) => c.id === channelId);
    if (!channel) throw notFound('channel', channelId);
    return { gadget, channel };
  }

  return {
    /** @param recordingId null for the newest live rows */
    async look(gadgetId: string, channelId: string, recordingId: string | null): Promise<StreamLook> {
      const { gadget, channel } = await channelOf(gadgetId, channelId);
      const rows = recordingId === null ? liveRows(bench, gadgetId) : await recordedRows(recordingId);
      const whole = wholeLine(gadget, channel, []);
      const seconds = rows.times.length > 1 ? rows.times[rows.times.length - 1]! - rows.times[0]! : 0;
      const columns = whole.sources.flatMap(({ column }, k) => {
        const values = rows.column(column);
        return values ? [{ name: column, findings: lookAt(gadget, channel, whole, k, rows, values) }] : [];
      });
      return { rows: rows.times.length, seconds, columns };
    },
  };

  async function recordedRows(id: string): Promise<Rows> {
    const recording = await tables.recordings.find(id);
    if (!recording) throw notFound('recording', id);
    const times: number[] = [];
    const columns: number[][] = recording.columns.map(() => []);
    for await (const samples of readSamples(knex, recording)) {
      for (let i = 0; i < samples.times.length && times.length < MOST_ROWS; i++) {
        times.push(samples.times[i]!);
        samples.columns.forEach((c, k) => columns[k]!.push(c[i]!));
      }
      if (times.length >= MOST_ROWS) break;
    }
    const at = (name: string) => recording.columns.findIndex((c) => c.name === name);
    return { times, column: (name) => columns[at(name)] ?? null, fromStart: isFromStart(recording) };
  }
}

/** What was brought in from a file says nothing of when it was switched on. */
const isFromStart = ({ state, pieces, firstTimeS }: Recording) =>
  state !== 'imported' && pieces === null && firstTimeS !== null && firstTimeS < SOON_S;

function liveRows({ links }: Bench, gadgetId: string): Rows {
  const live = links.of(gadgetId)?.live;
  if (!live)
    throw new ProblemError(
      404,
      'no-link',
      'No link',
      'No data rows: this gadget has no link.',
      'Connect the gadget, or choose a run.',
    );
  live.run();
  const { raw, columns } = live;
  return {
    times: raw.times,
    column: (name) => (columns.includes(name) ? raw.column(columns.indexOf(name)) : null),
    fromStart: raw.length > 0 && raw.times[0]! < SOON_S,
  };
}

function lookAt(
  gadget: Gadget,
  channel: Channel,
  { stages }: LineSpec,
  k: number,
  rows: Rows,
  values: ArrayLike<number>,
) {
  const first = stages.find((s) => !s.off);
  const kind = first && stageKind(first.kind);
  const addsUp = kind?.addsUp === true;
  const isLength = first?.kind === 'counts-to-length';
  // Beside a running count stands when its last edge came: that is no level and no count.
  if (addsUp && !isLength && k > 0) return [];
  const brief = addsUp ? null : briefFor(gadget, trueUpChannel(gadget, channel));
  return findStreamFaults({
    times: rows.times,
    values,
    codes: (first && kind?.codes?.(first.params)) ?? null,
    isCount: addsUp && !isLength,
    restsAtZero: isLength,
    fromStart: rows.fromStart,
    neededHz: brief && neededRateHz(brief),
  });
}
