import { writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Piece, Recording } from '@lucky-needle/core/model';
import { recordingReadings } from '../src/readings/recordingReadings.ts';
import { walkSamples, type Placed } from '../src/recordings/pieces.ts';
import { walkAside } from '../src/recordings/readAside.ts';
import type { Aside } from '../src/threads/aside.ts';
import { leaveThread, takeThread } from '../src/threads/spareThread.ts';
import { freshFolder } from './bench.ts';
import { program } from './program.ts';
import { stageOf as stage, storedRun } from './storedRun.ts';

const RATE = 1000;
const N = 300_000;
const times = Float64Array.from({ length: N }, (_, i) => i / RATE);
// Rows are missing, and numbers are.
const kept = (_: number, i: number) => i < 90_000 || i >= 90_400;
const codes = (seed: number) =>
  Float64Array.from(times, (_, i) => (i === 123_456 ? Number.NaN : 500 + ((i * seed) % 301))).filter(kept);
const NAMES = ['a', 'b', 'c'];
const channel = (column: string) => ({
  id: column,
  line: {
    sources: [{ column, unit: 'count' as const }],
    stages: [
      stage('adc', { bits: 12, referenceV: 3.3, gives: 'volt' }),
      stage('linear', { slope: 2, intercept: 1, to: 'V' }),
      stage('exponential', { timeConstantS: 0.3 }),
    ],
  },
});
const CHANNELS = NAMES.map(channel);

let run: Awaited<ReturnType<typeof storedRun>>;
let aside: Aside;

beforeAll(async () => {
  const folder = dirname(await program());
  const thread = (name: string) => pathToFileURL(join(folder, `${name}.mjs`));
  aside = { reader: thread('readWorker'), grower: thread('growWorker'), longSamples: 0 };
  const columns = Object.fromEntries(NAMES.map((name, k) => [name, codes(7 + 4 * k)]));
  run = await storedRun(columns, times.filter(kept), RATE);
}, 120_000);
afterAll(() => run.database.close());

async function all(placed: AsyncGenerator<Placed>) {
  const found: { at: Placed['at']; times: number[]; columns: number[][] }[] = [];
  for await (const { at, samples } of placed)
    found.push({ at, times: [...samples.times], columns: samples.columns.map((c) => [...c]) });
  return found;
}

describe('samples that a thread reads', () => {
  it.each([
    ['of a whole run', null, -Infinity],
    ['from a time on', null, 250.5],
    [
      'of stretches that were cut out and moved',
      [
        { of: 'r', fromS: 20.0005, toS: 40, shiftS: -20 },
        { of: 'r', fromS: 100, toS: 130.5, shiftS: 7 },
      ],
      -Infinity,
    ],
  ] as const)('are those that are stored, %s', async (_, pieces, fromS) => {
    const recording: Recording = { ...run.recording, pieces: pieces as Piece[] | null };
    const expected = await all(walkSamples(run.knex, recording, { piece: 0, chunk: 0 }, fromS));
    expect(expected.length).toBeGreaterThan(10);
    expect(await all(walkAside(run.knex, recording, fromS, aside))).toEqual(expected);
  });

  it('need not all be taken', async () => {
    for (let k = 0; k < 3; k++)
      for await (const { samples } of walkAside(run.knex, run.recording, -Infinity, aside)) {
        expect(samples.times[0]).toBe(0);
        break;
      }
  });

  it('say that they cannot be read, where the thread fails', async () => {
    const broken = join(freshFolder(), 'readWorker.mjs');
    writeFileSync(
      broken,
      `import { parentPort } from 'node:worker_threads'; parentPort.on('message', () => { throw new Error('no disk'); });`,
    );
    const failing = walkAside(run.knex, run.recording, -Infinity, {
      ...aside,
      reader: pathToFileURL(broken),
    });
    await expect(all(failing)).rejects.toThrow('no disk');
    writeFileSync(broken, `process.exit(0);`);
    const gone = walkAside(run.knex, run.recording, -Infinity, { ...aside, reader: pathToFileURL(broken) });
    await expect(all(gone)).rejects.toThrow(/stopped unexpectedly/);
  });
});

describe('readings that threads work out', () => {
  const looksOf = (readings: ReturnType<typeof recordingReadings>) =>
    Promise.all(
      CHANNELS.flatMap((of) =>
        [null, { fromS: 80, toS: 200 }, { fromS: 123.4, toS: 123.5 }].map((stretch) =>
          readings.look(run.recording, of, stretch, 400),
        ),
      ),
    );
  const here = () => recordingReadings(run.knex, () => 0, { ...aside, longSamples: Infinity });
  const threads = (change: Partial<Aside> = {}) =>
    recordingReadings(run.knex, () => 0, { ...aside, ...change });

  it('are those that are worked out on the spot, with gaps, bad ones and counts', async () => {
    await here().forgetAll();
    const expected = await looksOf(here());
    expect(expected[0]!.tally.map(({ length }) => length)).toEqual([N - 400, N - 400, N - 400, N - 400]);
    expect(expected[0]!.summary.bad).toBe(1);
    await threads().forgetAll();
    const shares: number[] = [];
    let reads = 0;
    const listen = ({ sql }: { sql: string }) => void (/from `?chunks\b/i.test(sql) && reads++);
    run.knex.on('query', listen);
    await threads().prepare(run.recording, CHANNELS, (share) => shares.push(share));
    run.knex.off('query', listen);
    expect(reads).toBe(0);
    expect(shares).toEqual(shares.toSorted((a, b) => a - b));
    expect(shares.at(-1)).toBe(1);
    expect(await looksOf(here())).toEqual(expected);
  });

  it('can be stopped, and go on from where each stands', async () => {
    await threads().forgetAll();
    const stop = threads().prepare(run.recording, [CHANNELS[0]!], (share) => {
      if (share > 0.6) throw new Error('stopped');
    });
    await expect(stop).rejects.toThrow('stopped');
    await threads().prepare(run.recording, CHANNELS);
    const onThreads = await looksOf(here());
    await here().forgetAll();
    expect(await looksOf(here())).toEqual(onThreads);
  });

  it.each(['here', 'threads'] as const)(
    'are made anew where what there was is dropped while more comes, %s',
    async (where) => {
      const make = { here, threads }[where];
      await make().forgetAll();
      const expected = await looksOf(here());
      await make().forgetAll();
      let dropped: Promise<unknown> | null = null;
      const outcome = await make()
        .prepare(run.recording, CHANNELS, (share) => {
          if (share > 0.9) dropped ??= Promise.resolve(make().forgetAll());
        })
        .catch((error: unknown) => error);
      await dropped;
      // It may have been whole before it was dropped.
      if (outcome !== undefined) expect(outcome).toMatchObject({ problem: { code: 'readings-dropped' } });
      expect(await looksOf(here())).toEqual(expected);
    },
  );

  it('say that a chunk is damaged as they do on the spot, and are there again once it is whole', async () => {
    const chunk = () => run.knex('chunks').where({ recording_id: 'r', seq: 30 });
    const { checksum } = (await chunk().first()) as { checksum: number };
    await chunk().update({ checksum: checksum ^ 1 });
    await threads().forgetAll();
    const failed = await threads()
      .prepare(run.recording, CHANNELS)
      .catch((error: unknown) => error);
    expect(failed).toMatchObject({ name: 'ProblemError', problem: { code: 'chunk-damaged', status: 500 } });
    await chunk().update({ checksum });
    await threads().prepare(run.recording, CHANNELS);
    expect(await looksOf(here())).toHaveLength(9);
  });

  it('say why a line cannot run', async () => {
    const lost = {
      ...CHANNELS[0]!,
      line: { ...CHANNELS[0]!.line, sources: [{ column: 'z', unit: 'count' as const }] },
    };
    await expect(threads().prepare(run.recording, [CHANNELS[1]!, lost])).rejects.toThrow(
      /No raw column “z”.*Available columns: a, b, c/,
    );
  });

  it('say so where a thread fails', async () => {
    const broken = join(freshFolder(), 'growWorker.mjs');
    writeFileSync(broken, `throw new Error('no room');`);
    await threads().forgetAll();
    await expect(threads({ grower: pathToFileURL(broken) }).prepare(run.recording, CHANNELS)).rejects.toThrow(
      'no room',
    );
    await threads().prepare(run.recording, CHANNELS);
  });

  it('end nothing but themselves where they fail after their work was given up', async () => {
    const broken = join(freshFolder(), 'thread.mjs');
    writeFileSync(broken, `throw new Error('too late for anyone');`);
    const worker = takeThread(pathToFileURL(broken), {});
    leaveThread(worker);
    expect(await new Promise((done) => worker.once('exit', done))).toBe(1);
  });
});
