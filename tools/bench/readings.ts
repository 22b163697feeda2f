// Readings of a long recording, as pages ask for them.
import { compileLine } from '../../core/src/line/index.ts';
import type { LineSpec } from '../../core/src/model/line.ts';
import { middle, seconds, tell, type Ask } from './measure.ts';

/** Turn about with the core; in the first, threads are started and nothing is warm. */
const ROUNDS = 7;

/** Readings of ten million samples through five stages: the first look, which makes them, and every later one. */
export async function readingRows(
  ask: Ask,
  gadgetId: string,
  id: string,
  oneColumnId: string,
): Promise<void> {
  const { channels } = await ask<{ channels: { line: LineSpec }[] }>(`/api/gadgets/${gadgetId}`, 'GET');
  const { sources, stages } = channels[0]!.line;
  const { columns } = await ask<{ columns: { name: string }[] }>(`/api/recordings/${id}`, 'GET');
  let looked = 0;
  /** Another line for each look, so that each is a first one. */
  const lineOn = (column: string): LineSpec => {
    const params = { timeConstantS: 1 + looked / 16 };
    const smooth = { id: 's', kind: 'exponential', params, uncertainty: {}, off: false };
    return { sources: [{ ...sources[0]!, column }], stages: [...stages.slice(0, 4), smooth] };
  };
  const look = (of: string, lines: readonly LineSpec[], fromS: number | null, toS: number | null) =>
    ask<{ share?: number }>(`/api/recordings/${of}/look`, 'POST', {
      lines: lines.map((line, k) => ({ id: `c${k}`, line, slowestHz: null, warmUpS: 0 })),
      fromS,
      toS,
      points: 2000,
    });
  const firstLook = (of: string, lines: readonly LineSpec[]) =>
    seconds(async () => {
      while ((await look(of, lines, null, null)).share !== undefined)
        await new Promise((done) => setTimeout(done, 20));
    });
  const times = Float64Array.from({ length: 10_000_000 }, (_, i) => i / 1000);
  const counts = Float64Array.from(times, (_, i) => 500 + ((i * 7) % 300));
  const block = {
    length: times.length,
    times,
    lanes: [{ values: counts, reasons: new Uint8Array(times.length) }],
  };
  const coreOver = (lines: readonly LineSpec[]) =>
    seconds(async () => {
      for (const of of lines)
        compileLine(of, { sampleRateHz: 1000 })
          .start()
          .process(block, () => {});
    });
  const names = columns.map((c) => c.name);
  for (const [name, run, of] of [
    ['First look at 10 M samples of a column, through 5 stages', oneColumnId, names.slice(0, 1)],
    ['First look at 10 M samples of 4 columns, each through 5 stages', id, names],
    ['The same, at one of the columns', id, names.slice(0, 1)],
  ] as const) {
    const [ours, core]: [number[], number[]] = [[], []];
    for (let round = 0; round < ROUNDS; round++) {
      looked++;
      ours.push(await firstLook(run, of.map(lineOn)));
      core.push(await coreOver(of.map(lineOn)));
    }
    const [a, b] = [middle(ours), 1.5 * middle(core)];
    tell({ name, ours: a, peer: b, unit: 's', ratio: b / a, bar: 1 });
  }
  const line = lineOn(names[0]!);
  const length = 10_000;
  const worst: number[] = [];
  for (const span of [0.1, 1, 10, 60, 100, 300, 1000, 3000, length]) {
    const took: number[] = [];
    for (let k = 0; k < 9; k++) {
      const from = ((length - span) * k) / 9;
      took.push(await seconds(() => look(id, [line], from, from + span)));
    }
    worst.push(middle(took));
  }
  const ours = 1000 * Math.max(...worst);
  tell({
    name: 'Readings of 10 M samples, once seen, the slowest zoom',
    ours,
    peer: 50,
    unit: 'ms',
    ratio: 50 / ours,
    bar: 1,
  });
}
