import { constants } from 'node:fs';
import { open, type FileHandle } from 'node:fs/promises';
import { isBelow } from './followedPath.ts';
import type { LinkSource } from './source.ts';

const LOOK_MS = 200;
/** Read in one look at most, so that a huge file neither blocks nor fills the memory. */
const MOST_BYTES = 1_000_000;

/**
 * Follows a log file that another program writes: from its end on, through being emptied, and through being replaced by a
 * new file of the same name. A file that is not there yet is waited for. Only a plain file below the folders is read, looked at
 * anew each time: it may have become a pipe that never answers, or a link that leads elsewhere.
 */
export function fileSource(
  path: string,
  folders: readonly string[],
  text: (piece: string) => void,
): LinkSource {
  let problem: string | null = null;
  let at: number | null = null;
  let inode: number | null = null;
  let stopped = false;
  const decoder = new TextDecoder();
  const buffer = Buffer.alloc(MOST_BYTES);

  async function look(): Promise<void> {
    let file: FileHandle | null = null;
    try {
      if (!(await isBelow(path, folders)))
        throw new Error('its path leads out of the folders allowed for log files');
      // Without waiting: a pipe that nobody writes to would keep a thread for ever.
      file = await open(path, constants.O_RDONLY | constants.O_NONBLOCK);
      const stat = await file.stat();
      if (!stat.isFile()) throw new Error('not a regular file');
      // What stood there before the link was made is old; a file that came or was emptied later is new from its start.
      if (at === null) at = inode === null && problem === null ? stat.size : 0;
      else if (stat.ino !== inode || stat.size < at) at = 0;
      inode = stat.ino;
      problem = null;
      while (at < stat.size && !stopped) {
        const { bytesRead } = await file.read(buffer, 0, Math.min(MOST_BYTES, stat.size - at), at);
        if (bytesRead === 0) break;
        at += bytesRead;
        text(decoder.decode(buffer.subarray(0, bytesRead), { stream: true }));
      }
    } catch (error) {
      const { code, message } = error as NodeJS.ErrnoException;
      problem =
        code === 'ENOENT'
          ? `${path} does not exist yet. Waiting for it.`
          : `Cannot read ${path}: ${message}.`;
      at ??= 0;
    } finally {
      await file?.close();
    }
    if (!stopped) timer = setTimeout(() => void look(), LOOK_MS);
  }

  let timer = setTimeout(() => void look(), 0);
  return {
    plugged: true,
    simulated: null,
    get problem() {
      return problem;
    },
    stop() {
      stopped = true;
      clearTimeout(timer);
    },
  };
}
