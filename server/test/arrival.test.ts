import { createHash } from 'node:crypto';
import { existsSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { PassThrough, Readable } from 'node:stream';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Arrival } from '../src/imports/arrival.ts';
import { freshFolder } from './bench.ts';

let folder: string;
let n = 0;
const path = () => join(folder, String(n++));
beforeAll(() => (folder = freshFolder()));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** Bytes that tell their place, so that a piece at the wrong one is seen. */
const bytesOf = (length: number) =>
  Buffer.from(Uint8Array.from({ length }, (_, i) => (i * 31 + (i >> 8)) & 255));
const sha256 = (bytes: Buffer) => createHash('sha256').update(bytes).digest('hex');

describe('a file on its way', () => {
  it.each([0, 1, 1000, 1 << 19, (1 << 19) + 1, 3_000_000])(
    'of %i bytes comes whole, in whatever pieces, with its checksum',
    async (length) => {
      const bytes = bytesOf(length);
      const at = path();
      const pieces = [7, 65_536, 1_100_000];
      function* cut() {
        for (let from = 0, k = 0; from < length; k++) {
          const to = from + pieces[k % pieces.length]!;
          yield bytes.subarray(from, to);
          from = to;
        }
      }
      const arrival = new Arrival(at, Readable.from(cut()));
      expect(await arrival.whole).toEqual({ bytes: length, checksum: sha256(bytes) });
      expect([arrival.isWhole, arrival.bytes]).toEqual([true, length]);
      expect(readFileSync(at).equals(bytes)).toBe(true);
      // A file that is shorter than what is waited for ends the wait.
      await arrival.atLeast(length + 1);
    },
  );

  it('can be read as far as it has come', async () => {
    const bytes = bytesOf(2_000_000);
    const at = path();
    const body = new PassThrough();
    const arrival = new Arrival(at, body);
    body.write(bytes.subarray(0, 1_200_000));
    await arrival.atLeast(1_000_000);
    expect(arrival.isWhole).toBe(false);
    expect(readFileSync(at).subarray(0, 1_000_000).equals(bytes.subarray(0, 1_000_000))).toBe(true);
    body.end(bytes.subarray(1_200_000));
    await arrival.atLeast(2_000_000);
    expect(readFileSync(at).equals(bytes)).toBe(true);
  });

  it('that breaks off is told to all who wait, and removed', async () => {
    const at = path();
    const body = new PassThrough();
    const arrival = new Arrival(at, body);
    body.write(bytesOf(700_000));
    await arrival.atLeast(1);
    const waits = [arrival.atLeast(1e9), arrival.whole];
    body.destroy(new Error('cable pulled'));
    for (const wait of waits) await expect(wait).rejects.toThrow('cable pulled');
    await expect(arrival.atLeast(1e9)).rejects.toThrow('cable pulled');
    expect(existsSync(at)).toBe(false);
  });

  it('that is too large is refused, removed, and heard out', async () => {
    const at = path();
    const body = new PassThrough();
    const arrival = new Arrival(at, body, 1_000_000);
    let heardOut = false;
    body.on('end', () => (heardOut = true));
    for (let i = 0; i < 30; i++)
      if (!body.write(bytesOf(100_000))) await new Promise((r) => body.once('drain', r));
    body.end();
    await expect(arrival.whole).rejects.toMatchObject({
      problem: { detail: expect.stringMatching(/0\.001 GB/) },
    });
    await expect.poll(() => heardOut).toBe(true);
    expect(existsSync(at)).toBe(false);
  });

  it('that cannot be written is told', async () => {
    const arrival = new Arrival(join(folder, 'no such folder', 'x'), Readable.from([bytesOf(10)]));
    await expect(arrival.whole).rejects.toThrow(/ENOENT/);
    await expect(arrival.atLeast(1)).rejects.toThrow(/ENOENT/);
  });
});
