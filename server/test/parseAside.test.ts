import { rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { PassThrough } from 'node:stream';
import { build } from 'esbuild';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { detectFile } from '@lucky-needle/core/formats';
import { Arrival } from '../src/imports/arrival.ts';
import { headOf, lookAtHead } from '../src/imports/lookAtFile.ts';
import { lookAside, parseAside } from '../src/imports/parseAside.ts';
import { parseFile, type ParsedPiece, type ParseTask } from '../src/imports/parseFile.ts';
import { freshFolder } from './bench.ts';

let folder: string;
let program: URL;

beforeAll(async () => {
  folder = freshFolder();
  const outfile = join(folder, 'parseWorker.mjs');
  await build({
    entryPoints: [join(import.meta.dirname, '../src/imports/parseWorker.ts')],
    bundle: true,
    platform: 'node',
    format: 'esm',
    outfile,
    banner: {
      js: "import { createRequire as requireFrom } from 'node:module'; const require = requireFrom(import.meta.url);",
    },
  });
  program = pathToFileURL(outfile);
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

async function taskOf(text: string, picked: readonly number[]): Promise<ParseTask> {
  const path = join(folder, 'table.csv');
  writeFileSync(path, text);
  const detected = detectFile(await headOf(path));
  if (typeof detected === 'string') throw new Error(detected);
  return { path, detected, picked, sampleRateHz: 10, nowS: 0 };
}

async function all(pieces: AsyncGenerator<ParsedPiece>) {
  const found = {
    times: [] as number[],
    columns: [] as number[][],
    issues: [] as unknown[],
    issueCount: 0,
    pieces: 0,
  };
  for await (const piece of pieces) {
    found.times.push(...piece.rows.times.subarray(0, piece.length));
    piece.rows.columns.forEach((c, k) => (found.columns[k] ??= []).push(...c.subarray(0, piece.length)));
    found.issues.push(...piece.issues);
    found.issueCount += piece.issueCount;
    found.pieces++;
  }
  return found;
}

const table = (rows: number) =>
  `time,a,b\n${Array.from({ length: rows }, (_, i) => (i % 50_000 === 7 ? `${i},bad,0` : `${i},${i / 7},${-i}`)).join('\n')}\n`;

describe('a file parsed on a thread of its own', () => {
  it('comes in the same pieces, with the same issues, as on the spot', async () => {
    const task = await taskOf(table(200_000), [1, 0]);
    const aside = await all(parseAside(task, null, null, program));
    const onTheSpot = await all(parseFile(task));
    expect(aside).toEqual(onTheSpot);
    expect(aside.pieces).toBeGreaterThan(3);
    expect(aside.times).toHaveLength(200_000 - 4);
    expect([aside.columns[0]![9], aside.columns[1]![9]]).toEqual([-10, 10 / 7]);
    expect(aside.issues).toHaveLength(4);
    // The same thread takes the next file, and starts it anew.
    expect(await all(parseAside(task, null, null, program))).toEqual(onTheSpot);
  });

  it('ends when nobody wants more, and takes no more than a few pieces ahead', async () => {
    const task = await taskOf(table(600_000), [0]);
    for await (const piece of parseAside(task, null, null, program)) {
      expect(piece.length).toBeGreaterThan(1000);
      break;
    }
    // The thread is gone: the file can be read from its start again.
    expect((await all(parseAside(task, null, null, program))).times).toHaveLength(600_000 - 12);
  });

  it('tells what went wrong there', async () => {
    const task = await taskOf(table(10), [0]);
    await expect(
      all(parseAside({ ...task, path: join(folder, 'gone.csv') }, null, null, program)),
    ).rejects.toThrow(/ENOENT/);
  });

  it.each(['on its thread', 'on the spot'])('is parsed %s while it still comes in', async (where) => {
    const text = table(200_000);
    const task = await taskOf(text, [1, 0]);
    const whole = await all(parseFile(task));
    const body = new PassThrough();
    const path = join(folder, `growing ${where}`);
    const parsed = parseAside(
      { ...task, path },
      new Arrival(path, body),
      null,
      where === 'on the spot' ? pathToFileURL(join(folder, 'missing.mjs')) : program,
    );
    body.write(text.slice(0, 2_500_000));
    const first = await parsed.next();
    expect((first.value as ParsedPiece).length).toBeGreaterThan(1000);
    const [firstTimes, length] = [[...first.value.rows.times], (first.value as ParsedPiece).length];
    body.end(text.slice(2_500_000));
    const rest = await all(parsed);
    expect([...firstTimes.slice(0, length), ...rest.times]).toEqual(whole.times);
    expect(rest.pieces + 1).toBe(whole.pieces);
  });

  it.each(['on its thread', 'on the spot'])(
    'that breaks off is told %s, and the next is read',
    async (where) => {
      const text = table(200_000);
      const task = await taskOf(text, [0]);
      const body = new PassThrough();
      const path = join(folder, `broken ${where}`);
      const beside = where === 'on the spot' ? pathToFileURL(join(folder, 'missing.mjs')) : program;
      const parsed = parseAside({ ...task, path }, new Arrival(path, body), null, beside);
      body.write(text.slice(0, 1_500_000));
      await parsed.next();
      body.destroy(new Error('cable pulled'));
      await expect(all(parsed)).rejects.toThrow('cable pulled');
      expect((await all(parseAside(task, null, null, beside))).times).toHaveLength(200_000 - 4);
    },
  );

  it('that hangs its thread is given up when it is cancelled, and the next is read', async () => {
    const hanging = join(folder, 'hangs.mjs');
    writeFileSync(
      hanging,
      `import { parentPort } from 'node:worker_threads'; parentPort.on('message', () => { for (;;); });`,
    );
    const task = await taskOf(table(10), [1]);
    const cancel = new AbortController();
    const parsed = all(parseAside(task, null, cancel.signal, pathToFileURL(hanging)));
    const outcome = expect(parsed).rejects.toThrow('cancelled');
    cancel.abort();
    await outcome;
    expect((await all(parseAside(task, null, null, program))).times).toHaveLength(9);
  });

  it('of thousands of columns takes no more room than it fills', async () => {
    const wide = Array.from({ length: 6000 }, (_, k) => k).join();
    const task = await taskOf(`time [s],${wide}\n0,${wide}\n1,${wide}\n`, [0, 5999]);
    const picked = Array.from({ length: 6000 }, (_, k) => k);
    const beside = pathToFileURL(join(folder, 'missing.mjs'));
    for await (const piece of parseAside({ ...task, picked }, null, null, beside)) {
      expect(piece.length).toBe(2);
      expect(piece.rows.columns[5999]!.slice(0, 2)).toEqual(Float64Array.of(5999, 5999));
      expect(piece.rows.columns.length * piece.rows.times.length).toBeLessThan(3e6);
    }
  });

  it('is given up in words when looking at it hangs, and the next is looked at', async () => {
    const hanging = join(folder, 'hangs at once.mjs');
    writeFileSync(
      hanging,
      `import { parentPort } from 'node:worker_threads'; parentPort.on('message', () => { for (;;); });`,
    );
    const clock = { sampleRateHz: 10, nowS: 1.8e9 };
    const head = new TextEncoder().encode(table(10));
    expect(await lookAside(head, true, null, clock, pathToFileURL(hanging), 50)).toEqual({
      problem: 'The file could not be analysed: reading it takes too long.',
    });
    expect(await lookAside(head, true, null, clock, program)).toHaveProperty('look.columns');
  });

  it('is looked at there as well, and told the same as on the spot', async () => {
    for (const text of [table(10), 'no table at all', '{"t":1,"a":2}\n', `${'1'.repeat(60_000)}x`]) {
      const head = new TextEncoder().encode(text);
      const clock = { sampleRateHz: 10, nowS: 1.8e9 };
      expect(await lookAside(head, true, null, clock, program)).toEqual(lookAtHead(head, true, null, clock));
    }
  });

  it('is parsed on the spot where the thread’s program is not built', async () => {
    const task = await taskOf(table(10), [1]);
    const missing = pathToFileURL(join(folder, 'missing.mjs'));
    expect((await all(parseAside(task, null, null, missing))).times).toHaveLength(9);
  });
});
