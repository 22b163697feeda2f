import { realpath } from 'node:fs/promises';
import { basename, dirname, join, sep } from 'node:path';

/**
 * Whether a path, with every link of the file system followed, lies below one of some folders; a file that is not there yet
 * goes by its folder. @throws when there is no such folder
 */
export async function isBelow(path: string, folders: readonly string[]): Promise<boolean> {
  const folder = await realpath(dirname(path));
  const real = await realpath(path).catch(() => join(folder, basename(path)));
  const allowed = await Promise.all(folders.map((d) => realpath(d).catch(() => d)));
  return allowed.some((d) => real.startsWith(d.endsWith(sep) ? d : d + sep));
}
