import { createHash } from 'node:crypto';
import { open, rm, type FileHandle } from 'node:fs/promises';
import type { Readable } from 'node:stream';
import { refused } from './lookAtFile.ts';

const MAX_BYTES = 20_000_000_000;
/** Collected before they are written: the network gives much smaller pieces. */
const WRITE_BYTES = 1 << 19;

export interface WholeFile {
  readonly bytes: number;
  /** SHA-256, in hexadecimal digits. */
  readonly checksum: string;
}

/** A file on its way to disk. It can be read as far as it has come. When it cannot come whole, what has come is removed. */
export class Arrival {
  readonly path: string;
  /** Once all of it is on disk; rejects when it breaks off or is too large. */
  readonly whole: Promise<WholeFile>;
  private written = 0;
  private ended = false;
  private failure: unknown = null;
  private waiting: (() => void)[] = [];

  constructor(path: string, body: Readable, maxBytes = MAX_BYTES) {
    this.path = path;
    this.whole = this.receive(body, maxBytes).then(
      (file) => {
        this.ended = true;
        this.wake();
        return file;
      },
      async (error: unknown) => {
        this.failure = error;
        this.wake();
        await rm(path, { force: true });
        throw error;
      },
    );
    // Told to whoever waits for it; nobody may.
    this.whole.catch(() => undefined);
  }

  /** Bytes on disk so far. */
  get bytes(): number {
    return this.written;
  }

  get isWhole(): boolean {
    return this.ended;
  }

  /** Waits until so many bytes are on disk, or the whole file if it is shorter. */
  async atLeast(bytes: number): Promise<void> {
    while (this.written < bytes && !this.ended) {
      if (this.failure) throw this.failure;
      await new Promise<void>((next) => this.waiting.push(next));
    }
  }

  private wake(): void {
    for (const next of this.waiting.splice(0)) next();
  }

  private async receive(body: Readable, maxBytes: number): Promise<WholeFile> {
    const hash = createHash('sha256');
    const file = await open(this.path, 'wx');
    try {
      // One is filled while the other is written.
      let [filling, other] = [Buffer.allocUnsafe(WRITE_BYTES), Buffer.allocUnsafe(WRITE_BYTES)];
      let filled = 0;
      let taken = 0;
      let writing = Promise.resolve();
      const write = async () => {
        const bytes = filling.subarray(0, filled);
        await writing;
        writing = this.write(file, bytes);
        // An error is met by the next wait.
        writing.catch(() => undefined);
        [filling, other] = [other, filling];
        filled = 0;
      };
      for await (const piece of body.iterator({ destroyOnReturn: false }) as AsyncIterable<Buffer>) {
        taken += piece.length;
        if (taken > maxBytes)
          throw refused(`The file is larger than ${maxBytes / 1e9} GB.`, 'Split it into smaller files.');
        hash.update(piece);
        for (let from = 0; from < piece.length;) {
          const copied = piece.copy(filling, filled, from);
          from += copied;
          filled += copied;
          if (filled === WRITE_BYTES) await write();
        }
      }
      await write();
      await writing;
      return { bytes: taken, checksum: hash.digest('hex') };
    } finally {
      // Whoever sends is heard out, or it would never see why it was refused.
      body.resume();
      await file.close();
    }
  }

  private async write(file: FileHandle, bytes: Buffer): Promise<void> {
    await file.writeFile(bytes);
    this.written += bytes.length;
    this.wake();
  }
}
