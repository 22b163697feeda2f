// How fast samples come to disk and back: the real program on a folder of its own, beside pandas where python3 has it.
import { spawnSync } from 'node:child_process';
import {
  createReadStream,
  createWriteStream,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { once } from 'node:events';
import { request, type IncomingMessage } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { text } from 'node:stream/consumers';
import { pipeline } from 'node:stream/promises';
import { gzipSync } from 'node:zlib';
import { framesWhileMoving, longestTask } from './inBrowser.ts';
import { askOf, middle, seconds, tell } from './measure.ts';
import { millRows } from './mill.ts';
import { cpuSeconds, launch } from './program.ts';
import { readingRows } from './readings.ts';

/** Also a file of a gigabyte, which takes a minute or two. */
const large = process.argv.includes('--large');
/** Only the rows of windows, readings and the live bench. */
const readings = process.argv.includes('--readings');

const folder = mkdtempSync(join(tmpdir(), 'needle-bench-'));
const program = await launch(join(folder, 'data'));
const ask = askOf(program.url);
try {
  const gadget = await ask<{ id: string }>('/api/gadgets', 'POST', {
    template: 'several-temperatures',
    name: 'Bench',
  });
  if (!readings) await importRow(gadget.id);
  const tenMillion = await windowRow(gadget.id);
  await readingRows(ask, gadget.id, tenMillion, await oneColumn(gadget.id));
  if (!readings) {
    await frameRow(gadget.id);
    await taskRow(gadget.id);
    await liveRow();
  }
  await millRows(join(folder, 'mill'));
  if (large) await largeRow(gadget.id);
  firstLoadRow();
} finally {
  program.child.kill('SIGTERM');
  await once(program.child, 'exit');
  rmSync(folder, { recursive: true, force: true });
}

async function importRow(gadgetId: string): Promise<void> {
  const path = join(folder, 'million.csv');
  await write(
    path,
    1_000_000,
    (i) => `${(i / 10).toFixed(1)},${400 + (i % 200)},${(i % 977) / 7},${500 - (i % 90)},${i % 1024}`,
  );
  const ours: number[] = [];
  const theirs: number[] = [];
  for (let round = 0; round < 9; round++) {
    ours.push(await seconds(() => send(gadgetId, path, `round ${round}`)));
    const peer = pandas(path);
    if (peer !== null) theirs.push(peer);
  }
  const [a, b] = [middle(ours), theirs.length > 0 ? middle(theirs) : null];
  tell({
    name: 'CSV import, 1 M rows of 4 columns, sent and stored',
    ours: a,
    peer: b,
    unit: 's',
    ratio: b === null ? null : b / a,
    bar: 0.5,
  });
}

async function windowRow(gadgetId: string): Promise<string> {
  const path = join(folder, 'ten.csv');
  await write(
    path,
    10_000_000,
    (i) =>
      `${i / 1000},${500 + ((i * 7) % 300)},${400 + ((i * 3) % 200)},${600 + ((i * 11) % 100)},${450 + ((i * 13) % 250)}`,
  );
  const { id } = await send(gadgetId, path, 'ten million');
  const length = 10_000;
  const worst: number[] = [];
  // From a few samples to all of them.
  for (const span of [1, 3, 10, 100, 300, 1000, 3000, length]) {
    const times: number[] = [];
    for (let k = 0; k < 9; k++) {
      const from = ((length - span) * k) / 9;
      times.push(
        await seconds(async () => {
          const answer = await fetch(
            `${program.url}/api/recordings/${id}/window?points=2000&from=${from}&to=${from + span}`,
          );
          await answer.arrayBuffer();
        }),
      );
    }
    worst.push(middle(times));
  }
  const ours = 1000 * Math.max(...worst);
  tell({
    name: 'Window of 2000 points, 10 M samples, the slowest zoom',
    ours,
    peer: 50,
    unit: 'ms',
    ratio: 50 / ours,
    bar: 1,
  });
  return id;
}

/** Ten million samples of one column. */
async function oneColumn(gadgetId: string): Promise<string> {
  const path = join(folder, 'one.csv');
  await write(path, 10_000_000, (i) => `${i / 1000},${500 + ((i * 7) % 300)}`, 1);
  return (await send(gadgetId, path, 'one column')).id;
}

async function frameRow(gadgetId: string): Promise<void> {
  const ours = await framesWhileMoving(program.url, gadgetId, 'ten million');
  if (ours === null) return console.log('Zoom and pan: no Chromium here; not measured.');
  tell({
    name: 'Zoom and pan over 10 M samples, frames shown',
    ours,
    peer: 60,
    unit: 'a second',
    ratio: ours / 60,
    bar: 0.95,
  });
}

async function taskRow(gadgetId: string): Promise<void> {
  const ours = await longestTask(program.url, gadgetId, 'ten million');
  if (ours === null) return console.log('Longest task: no Chromium here; not measured.');
  // The browser tells nothing of tasks below 50 ms.
  tell({
    name: 'Longest task of the page while 10 M samples are converted',
    ours: Math.max(ours, 50),
    peer: 50,
    unit: 'ms',
    ratio: 50 / Math.max(ours, 50),
    bar: 1,
  });
}

/** Eight columns of 10 kHz for ten seconds, pushed as text over a cable, and recorded. */
async function liveRow(): Promise<void> {
  const own = await launch(join(folder, 'live'));
  try {
    const call = askOf(own.url);
    const gadget = await call<{ id: string; version: number; channels: { line: { sources: object[] } }[] }>(
      '/api/gadgets',
      'POST',
      { template: 'several-temperatures', name: 'Fast' },
    );
    await call(`/api/gadgets/${gadget.id}/link`, 'POST', {
      settings: { kind: 'serial', baud: 4_000_000 },
      mapping: null,
    });
    let n = 0;
    const lines = (count: number) => {
      let text = '';
      for (let i = 0; i < count; i++, n++)
        text += `${(n / 10).toFixed(1)},${n % 1024},${n % 1000},${n % 900},${n % 800}\n`;
      return text;
    };
    await call(`/api/gadgets/${gadget.id}/link/text`, 'POST', { text: lines(100) });
    const run = await call<{ id: string }>(`/api/gadgets/${gadget.id}/recordings`, 'POST', { name: 'fast' });
    const before = cpuSeconds(own.child);
    const start = performance.now();
    const first = n;
    // Two gadgets' worth of four columns: 20 k lines a second carry as many numbers as eight columns of 10 kHz.
    while (performance.now() - start < 10_000) {
      const due = first + ((performance.now() - start) / 1000) * 20_000;
      if (n < due)
        await call(`/api/gadgets/${gadget.id}/link/text`, 'POST', { text: lines(Math.ceil(due - n)) });
      await new Promise((done) => setTimeout(done, 50));
    }
    const elapsed = (performance.now() - start) / 1000;
    const busy = (cpuSeconds(own.child) - before) / elapsed;
    const closed = await call<{ sampleCount: number; lostReadings: number }>(
      `/api/recordings/${run.id}/stop`,
      'POST',
    );
    if (closed.sampleCount !== n - first || closed.lostReadings !== 0)
      console.log(`  LOST: ${n - first - closed.sampleCount} of ${n - first} readings`);
    tell({
      name: 'Live write, 80 k numbers a second as text, committed twice a second',
      ours: 100 * busy,
      peer: 30,
      unit: '% of a core',
      ratio: 30 / (100 * busy),
      bar: 1,
    });
  } finally {
    own.child.kill('SIGTERM');
    await once(own.child, 'exit');
  }
}

async function largeRow(gadgetId: string): Promise<void> {
  const path = join(folder, 'large.csv');
  await write(path, 37_000_000, (i) => `${i / 1000},${500 + (i % 300)},${i % 977},${i % 90},${i % 1024}.25`);
  // Counted anew: the rows before have had their own.
  writeFileSync(`/proc/${program.child.pid}/clear_refs`, '5');
  const took = await seconds(() => send(gadgetId, path, 'large'));
  const peak =
    Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${program.child.pid}/status`, 'utf8'))![1]) / 1024;
  console.log(`  ${(statSync(path).size / 1e9).toFixed(2)} GB in ${took.toFixed(0)} s`);
  tell({
    name: 'Import of a gigabyte, most memory',
    ours: peak,
    peer: 400,
    unit: 'MB',
    ratio: 400 / peak,
    bar: 1,
  });
}

/** Script that a browser needs before the first page stands: the entry, the workshop, and whatever those import at once. */
function firstLoadRow(): void {
  const html = readFileSync('web/dist/index.html', 'utf8');
  const files = new Map<string, string>();
  const take = (name: string) => {
    if (files.has(name)) return;
    const text = readFileSync(`web/dist/assets/${name}`, 'utf8');
    files.set(name, text);
    for (const [, other] of text.matchAll(/(?:from|import)\s*["']\.\/([^"']+\.js)["']/g)) take(other!);
  };
  for (const [, name] of html.matchAll(/(?:src|href)="\/assets\/([^"]+\.js)"/g)) take(name!);
  take(readdirSync('web/dist/assets').find((name) => /^WorkshopPage-.*\.js$/.test(name))!);
  const bytes = [...files.values()].reduce((sum, text) => sum + gzipSync(text).length, 0);
  tell({
    name: 'First load, gzipped script',
    ours: bytes / 1000,
    peer: 250,
    unit: 'kB',
    ratio: 250_000 / bytes,
    bar: 1,
  });
}

async function write(path: string, rows: number, row: (i: number) => string, columns = 4): Promise<void> {
  const out = createWriteStream(path);
  const names = Array.from({ length: columns }, (_, k) => `p${k + 1} raw [count]`);
  out.write(`time [s],${names.join()}\n`);
  for (let i = 0; i < rows;) {
    let text = '';
    for (const end = Math.min(rows, i + 20_000); i < end; i++) text += `${row(i)}\n`;
    if (!out.write(text)) await once(out, 'drain');
  }
  out.end();
  await once(out, 'finish');
}

/** By a plain request: what the sender itself works out takes time from the program beside it. */
async function send(gadgetId: string, path: string, name: string): Promise<{ id: string }> {
  const sent = request(
    `${program.url}/api/gadgets/${gadgetId}/recordings/import?name=${encodeURIComponent(name)}`,
    {
      method: 'POST',
      headers: { 'Content-Type': 'text/csv', 'Content-Length': statSync(path).size },
    },
  );
  const answered = once(sent, 'response') as Promise<[IncomingMessage]>;
  await pipeline(createReadStream(path, { highWaterMark: 1 << 20 }), sent);
  const [answer] = await answered;
  const told = await text(answer);
  if (answer.statusCode !== 201) throw new Error(told);
  return JSON.parse(told) as { id: string };
}

/** Seconds that pandas needs to read the file; null where no python3 has it. */
function pandas(path: string): number | null {
  const program = `import time, pandas
b = time.perf_counter(); pandas.read_csv(${JSON.stringify(path)}); print(time.perf_counter() - b)`;
  for (const python of ['/usr/bin/python3', 'python3']) {
    const done = spawnSync(python, ['-c', program], { encoding: 'utf8' });
    if (done.status === 0) return Number(done.stdout);
  }
  return null;
}
