import { text } from 'node:stream/consumers';
import { crc32 } from 'node:zlib';
import { DESCRIPTOR_FILE, packageTablePath } from '@lucky-needle/core/formats';
import type { Entry, ZipFile } from 'yauzl';
import { entriesOf, openEntry, openZip } from '../files/zip.ts';

/** What a table may open to: more is a trap. */
const LARGEST_TABLE = 20_000_000_000;
const LARGEST_DESCRIPTOR = 10_000_000;
const MOST_FILES = 1000;

/** The table of a data package on disk, which is read as a stream. */
export interface PackageTable {
  /** Its name in the package. */
  readonly path: string;
  /** Bytes that it opens to, and that it takes up in the package. */
  readonly size: number;
  readonly packed: number;
  /** @throws {RangeError} when the package is damaged, at the latest at its end */
  bytes(): AsyncGenerator<Buffer>;
  close(): void;
}

/**
 * Finds the first resource of a Tabular Data Package.
 * @throws {RangeError} when the file is no zip, holds no descriptor or not the file that it names, or one that is too large
 */
export async function openPackage(path: string): Promise<PackageTable> {
  const zip = await openZip(path).catch((error: unknown) => {
    throw new RangeError('This is not a zip file, so it is not a data package.', { cause: error });
  });
  try {
    const entries = new Map<string, Entry>();
    for await (const entry of entriesOf(zip, MOST_FILES)) entries.set(entry.fileName, entry);
    const described = entries.get(DESCRIPTOR_FILE);
    if (!described) throw new RangeError(`The zip file has no ${DESCRIPTOR_FILE}. Is it a data package?`);
    const table = packageTablePath(await text(bytesOf(zip, sized(described, LARGEST_DESCRIPTOR))));
    const entry = entries.get(table);
    if (!entry)
      throw new RangeError(`The data package refers to ${table}, but the zip file does not contain it.`);
    return {
      path: table,
      size: sized(entry, LARGEST_TABLE).uncompressedSize,
      packed: entry.compressedSize,
      bytes: () => bytesOf(zip, entry),
      close: () => zip.close(),
    };
  } catch (error) {
    zip.close();
    throw error;
  }
}

async function* bytesOf(zip: ZipFile, entry: Entry): AsyncGenerator<Buffer> {
  const damaged = (cause?: unknown) =>
    new RangeError(`${entry.fileName} in the zip file is damaged.`, { cause });
  let sum = 0;
  try {
    for await (const piece of (await openEntry(zip, entry)) as AsyncIterable<Buffer>) {
      sum = crc32(piece, sum);
      yield piece;
    }
  } catch (error) {
    throw damaged(error);
  }
  if (sum !== entry.crc32) throw damaged();
}

function sized(entry: Entry, atMost: number): Entry {
  if (entry.uncompressedSize <= atMost) return entry;
  throw new RangeError(
    `${entry.fileName} in the zip file unpacks to ${entry.uncompressedSize} bytes; the maximum is ${atMost}.`,
  );
}
