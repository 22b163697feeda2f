import type { Readable } from 'node:stream';
import { promisify } from 'node:util';
import yauzl, { type Entry, type ZipFile } from 'yauzl';

/** Opens a zip archive, of any size, without reading it. @throws when it is none */
export const openZip = promisify((path: string, done: (error: Error | null, zip: ZipFile) => void) =>
  yauzl.open(path, { lazyEntries: true, autoClose: false }, done),
);

/**
 * The files in it, as its directory at the end lists them.
 * @throws {RangeError} when the archive is damaged
 */
export async function* entriesOf(zip: ZipFile, atMost: number): AsyncGenerator<Entry> {
  for (let i = 0; i < Math.min(zip.entryCount, atMost); i++) {
    yield await new Promise<Entry>((done, fail) => {
      const broken = () => fail(new RangeError('The zip file is damaged.'));
      zip.once('error', broken);
      zip.once('entry', (entry: Entry) => {
        zip.off('error', broken);
        done(entry);
      });
      zip.readEntry();
    });
  }
}

/** What a file in it opens to; its checksum is for the caller to look at. */
export const openEntry = (zip: ZipFile, entry: Entry): Promise<Readable> =>
  new Promise((done, fail) => {
    zip.openReadStream(entry, (error, stream) => (error ? fail(error) : done(stream)));
  });
