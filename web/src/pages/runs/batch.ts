import type { ImportBody, UploadFor } from '@lucky-needle/core/model';

/** Name of a run that is made of a file: the file's own, without its ending. */
export const runNameOf = (fileName: string): string =>
  fileName.replace(/\.\w+$/u, '').slice(0, 80) || 'Imported file';

/**
 * How a file of many is taken, without being asked about each: its columns as they were matched, if every raw column of the
 * gadget is among them.
 * @returns why it has to be looked at by itself, where one is missing
 */
export function takenAs(
  { upload, matched }: Pick<UploadFor, 'matched'> & { upload: Pick<UploadFor['upload'], 'columns'> },
  raw: readonly string[],
): ImportBody['columns'] | string {
  const missing = raw.filter((name) => !matched.includes(name));
  if (missing.length > 0) return `No column for ${missing.join(', ')}. Import this file on its own.`;
  return upload.columns.flatMap(({ unit }, at) => {
    const name = matched[at];
    return name ? [{ at, name, unit: unit ?? ('count' as const) }] : [];
  });
}

export type BatchState = 'waiting' | 'working' | 'imported' | 'already imported' | 'not imported';

export interface BatchFile {
  readonly name: string;
  readonly state: BatchState;
  /** Why it was not imported, or how far it is; empty where there is nothing to say. */
  readonly note: string;
}
