import { rmSync, writeFileSync } from 'node:fs';
import { connect } from 'node:net';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { WebSocket } from 'ws';
import {
  DESCRIPTOR_FILE,
  detectFile,
  PACKAGE_TABLE_FILE,
  packageDescriptor,
  type FileFormat,
} from '@lucky-needle/core/formats';
import { seededRandom, type Random } from '@lucky-needle/core/numerics';
import { headOfPackage, lookAtHead } from '../src/imports/lookAtFile.ts';
import { parseFile } from '../src/imports/parseFile.ts';
import { tableReader } from '../src/imports/tableReader.ts';
import { freshFolder, openBench, type TestBench } from './bench.ts';
import { packageOf, zipped } from './zipped.ts';

// Broken files, requests and messages, drawn anew from a seed. `npm run fuzz -- 10000` draws more, and reports.

/** How many of each kind are drawn. */
const ROUNDS = Number(process.env['FUZZ'] ?? 300);
const SEED = Number(process.env['FUZZ_SEED'] ?? 20_261);
/** What one may take at most, and the server to answer meanwhile. */
const LONGEST_MS = 2000;
const ANSWER_MS = 200;

const bytes = (text: string) => new TextEncoder().encode(text);

/** A good file of each format, to be broken. */
const GOOD: Readonly<Record<Exclude<FileFormat, 'package'>, Uint8Array>> = {
  delimited: bytes('time [s],a [N],b\n0,1.5,-2\n0.1,1.6,nan\n0.2,"1,7",4e3\n'),
  log: bytes('ms: 0, temp: 21.4 C, hum=40%\nms: 100, temp: 21.5 C, hum=41%\n'),
  'json-lines': bytes('{"t":0,"a":1,"b":null}\n{"t":0.1,"a":2.5,"b":3}\n'),
  senml: bytes('[{"bn":"kiln/","bt":1700000000,"n":"p1","u":"Cel","v":21.4},{"n":"p2","t":1,"v":3}]'),
  sentences: bytes(
    '$GPRMC,100000,A,4800.00,N,01100.00,E,1.0,2.0,010526,,*3A\n$GPGGA,100000,4800.00,N,01100.00,E,1,08,1.0,5.0,M,,M,,*4F\n',
  ),
  track: bytes(
    '<?xml version="1.0"?><gpx><trk><trkseg><trkpt lat="48" lon="11"><ele>5</ele><time>2026-05-01T10:00:00Z</time></trkpt></trkseg></trk></gpx>',
  ),
  wav: wavOf([0, 1000, -1000, 32_767]),
};

function wavOf(samples: readonly number[]): Uint8Array {
  const out = new DataView(new ArrayBuffer(44 + 2 * samples.length));
  const word = (at: number, text: string) =>
    [...text].forEach((c, i) => out.setUint8(at + i, c.charCodeAt(0)));
  word(0, 'RIFF');
  out.setUint32(4, 36 + 2 * samples.length, true);
  word(8, 'WAVEfmt ');
  out.setUint32(16, 16, true);
  out.setUint16(20, 1, true);
  out.setUint16(22, 1, true);
  out.setUint32(24, 8000, true);
  out.setUint32(28, 16_000, true);
  out.setUint16(32, 2, true);
  out.setUint16(34, 16, true);
  word(36, 'data');
  out.setUint32(40, 2 * samples.length, true);
  samples.forEach((v, i) => out.setInt16(44 + 2 * i, v, true));
  return new Uint8Array(out.buffer);
}

const HOSTILE = [
  '\u0000',
  '\r',
  '\n\n',
  '"',
  '{',
  '}',
  '[',
  '<',
  '&',
  '--',
  '1e999',
  '-',
  '9'.repeat(400),
  'nan',
  '\\',
  '__proto__',
  'constructor',
  '\uD800',
  '\uFEFF',
  ' '.repeat(300),
  ',,,,',
  ':',
  '=',
  '%',
  '../',
  '*',
  '$',
  '1970-02-31',
  '\u2028',
];

/** Well, or well and asked too often, as a long run does. */
const ANSWERS = [200, 429];

const pick = <T>(random: Random, of: readonly T[]): T => of[Math.floor(random.uniform() * of.length)]!;
const upTo = (random: Random, n: number) => Math.floor(random.uniform() * n);

/** One to eight changes: bytes turned, cut out, said twice, or something nasty put between. */
function broken(random: Random, good: Uint8Array): Uint8Array {
  let now = good;
  for (let k = 1 + upTo(random, 8); k > 0; k--) {
    const [a, b] = [upTo(random, now.length + 1), upTo(random, now.length + 1)].toSorted((x, y) => x - y) as [
      number,
      number,
    ];
    const put = (...parts: Uint8Array[]) => (now = new Uint8Array(Buffer.concat(parts)));
    switch (upTo(random, 5)) {
      case 0:
        now = now.map((byte, i) => (i === a ? byte ^ (1 << upTo(random, 8)) : byte));
        break;
      case 1:
        put(now.subarray(0, a), now.subarray(b));
        break;
      case 2:
        put(now.subarray(0, b), now.subarray(a));
        break;
      case 3:
        put(now.subarray(0, a), bytes(pick(random, HOSTILE)), now.subarray(a));
        break;
      default:
        put(
          now.subarray(0, a),
          ...Array.from({ length: 1 + upTo(random, 200) }, () => now.subarray(a, Math.min(b, a + 20))),
          now.subarray(b),
        );
    }
  }
  return now.subarray(0, 200_000);
}

/** Longest of some work, with what was given to it. */
const slowest = { ms: 0, what: '' };
function timed<T>(what: string, work: () => T): T {
  const begun = performance.now();
  const result = work();
  const ms = performance.now() - begun;
  if (ms > slowest.ms) Object.assign(slowest, { ms, what });
  return result;
}

const CLOCK = { sampleRateHz: 10, nowS: 1.8e9 };

describe('a broken file', () => {
  it.each(Object.entries(GOOD))(
    'of the format "%s" is read as far as it is good, or refused in words',
    (format, good) => {
      const random = seededRandom(SEED + format.length);
      let [read, refused] = [0, 0];
      slowest.ms = 0;
      for (let round = 0; round < ROUNDS; round++) {
        const file = broken(random, good);
        const shown = JSON.stringify(Buffer.from(file).toString('latin1').slice(0, 300));
        const looked = timed(shown, () =>
          lookAtHead(file.subarray(0, 65_536), file.length <= 65_536, null, CLOCK),
        );
        if ('problem' in looked) {
          expect(looked.problem.length).toBeGreaterThan(10);
          refused++;
          continue;
        }
        const detected = detectFile(file);
        if (typeof detected === 'string' || detected.format === 'package') continue;
        let last = -Infinity;
        timed(shown, () => {
          const reader = tableReader(
            detected,
            {
              columns: () => undefined,
              row(timeS, values) {
                if (timeS < last) throw new Error(`Times run backwards in ${shown}`);
                last = timeS;
                for (let i = 0; i < values.length; i++)
                  if (Math.abs(values[i]!) === Infinity) throw new Error(`An infinite value of ${shown}`);
              },
              issue: (issue) => expect(issue.text.length).toBeLessThan(400),
            },
            { sampleRateHz: 10, nowS: 1e9 },
          );
          // In pieces, as files come.
          for (let at = 0; at < file.length;) {
            const next = at + 1 + upTo(random, 5000);
            reader.push(file.subarray(at, next));
            at = next;
          }
          reader.finish();
        });
        expect(Number.isNaN(last)).toBe(false);
        read++;
      }
      expect(read + refused).toBeGreaterThan(ROUNDS / 2);
      expect([slowest.what, slowest.ms > LONGEST_MS]).toEqual([slowest.what, false]);
    },
  );

  it('of the format "package" is read as far as it is good, or refused in words', async () => {
    const random = seededRandom(SEED);
    const rows = Array.from({ length: 20 }, (_, i) => ({ timeS: i, values: [i, -i] }));
    const columns = ['a', 'b'].map((name) => ({ name, unit: null }));
    const good = packageOf(columns, rows);
    const table = bytes(`time [s],a,b\r\n${rows.map((r) => [r.timeS, ...r.values].join()).join('\r\n')}`);
    const packed = (csv: Uint8Array) => ({
      [DESCRIPTOR_FILE]: packageDescriptor({ name: 'k', title: 'K', columns }),
      [PACKAGE_TABLE_FILE]: csv,
    });
    const folder = freshFolder();
    const path = join(folder, 'package.zip');
    let [read, refused] = [0, 0];
    let longest = 0;
    for (let round = 0; round < ROUNDS; round++) {
      // Half of them broken as they come, and half before they are packed: the sums of a zip let little through.
      writeFileSync(path, round % 2 ? broken(random, good) : zipped(packed(broken(random, table))));
      const begun = performance.now();
      try {
        const { detected } = await headOfPackage(path);
        const picked = detected.plan!.columns.map((_, k) => k);
        for await (const piece of parseFile({ path, detected, picked, ...CLOCK }))
          for (let i = 1; i < piece.length; i++)
            expect(piece.rows.times[i]).toBeGreaterThanOrEqual(piece.rows.times[i - 1]!);
        read++;
      } catch (error) {
        // Said in words: nothing of our own that broke.
        expect([error instanceof TypeError, (error as Error).message]).toEqual([
          false,
          expect.stringMatching(/.{10}/),
        ]);
        refused++;
      }
      longest = Math.max(longest, performance.now() - begun);
    }
    rmSync(folder, { recursive: true, force: true });
    expect(read).toBeGreaterThan(ROUNDS / 20);
    expect(refused).toBeGreaterThan(ROUNDS / 20);
    expect(longest).toBeLessThan(LONGEST_MS);
  });
});

let bench: TestBench;
beforeAll(async () => {
  bench = await openBench();
});
afterAll(() => bench.close());

/** Sends bytes and waits until the other side ends, or it is given up. */
const raw = (data: Uint8Array) =>
  new Promise<string>((done) => {
    const socket = connect(Number(new URL(bench.server.url).port), '127.0.0.1', () => socket.end(data));
    let back = '';
    socket.on('data', (d) => (back += d.toString('latin1')));
    socket.on('error', () => done(back));
    socket.on('close', () => done(back));
  });

describe('a broken request', () => {
  it('is answered or ended, and keeps nobody else waiting', async () => {
    const random = seededRandom(SEED + 1000);
    const heads = [
      'GET /api/gadgets?limit=5 HTTP/1.1\r\nHost: 127.0.0.1\r\nConnection: close\r\n\r\n',
      'POST /api/gadgets HTTP/1.1\r\nHost: 127.0.0.1\r\nConnection: close\r\nContent-Type: application/json\r\nContent-Length: 37\r\n\r\n{"template":"empty","name":"A name"}\n',
      'GET /api/live HTTP/1.1\r\nHost: 127.0.0.1\r\nConnection: Upgrade\r\nUpgrade: websocket\r\nSec-WebSocket-Version: 13\r\nSec-WebSocket-Key: dGhlIHNhbXBsZSBub25jZQ==\r\n\r\n',
      'POST /api/push/x HTTP/1.1\r\nHost: 127.0.0.1\r\nConnection: close\r\nAuthorization: Bearer x\r\nContent-Type: application/json\r\nTransfer-Encoding: chunked\r\n\r\n5\r\n{"t":\r\n2\r\n1}\r\n0\r\n\r\n',
    ].map(bytes);
    let worstMs = 0;
    for (let round = 0; round < ROUNDS; round += 10) {
      const batch = Array.from({ length: 10 }, () => raw(broken(random, pick(random, heads))));
      // The best of three tells what the server can do, whatever else this machine does.
      let answerMs = Infinity;
      for (let i = 0; i < 3; i++) {
        const begun = performance.now();
        expect(ANSWERS).toContain((await bench.call('GET', '/api/health')).status);
        answerMs = Math.min(answerMs, performance.now() - begun);
      }
      worstMs = Math.max(worstMs, answerMs);
      await Promise.all(batch);
    }
    expect(worstMs).toBeLessThan(ANSWER_MS);
  });

  it('of a page’s socket is refused or ended', async () => {
    const random = seededRandom(SEED + 2000);
    const good = bytes('{"type":"watch","gadgetId":"00000000-0000-4000-8000-000000000000"}');
    const address = `${bench.server.url.replace('http', 'ws')}/api/live`;
    for (let round = 0; round < ROUNDS; round += 15) {
      const page = new WebSocket(address);
      await new Promise((done) => page.once('open', done));
      page.on('error', () => undefined);
      const closed = new Promise((done) => page.once('close', done));
      for (let i = 0; i < 15; i++) page.send(broken(random, good).subarray(0, 8000), { binary: i % 2 === 0 });
      page.close();
      await closed;
    }
    expect(ANSWERS).toContain((await bench.call('GET', '/api/health')).status);
  });

  it('whose body is broken JSON is told which field, and stores nothing that cannot be shown', async () => {
    const random = seededRandom(SEED + 3000);
    const bodies = [
      '{"template":"several-temperatures","name":"Fuzz"}',
      '{"template":"empty","name":"Fuzz","place":null}',
    ].map(bytes);
    for (let round = 0; round < ROUNDS; round += 3) {
      const body = Buffer.from(broken(random, pick(random, bodies))).toString('utf8');
      const { status } = await bench.call('POST', '/api/gadgets', body);
      expect([body, status >= 500]).toEqual([body, false]);
    }
    const { status } = await bench.call('GET', '/api/gadgets?limit=100');
    expect(ANSWERS).toContain(status);
  });
});
