import { compileLine, LineError } from '@lucky-needle/core/line';
import type { LookLine, Recording } from '@lucky-needle/core/model';
import type { ReadoutChannel } from '@lucky-needle/core/reading';
import { ProblemError } from '../http/problem.ts';
import type { Stretch } from '../readings/recordingReadings.ts';

/** A line that is asked for, as the views of recordings take it. */
export const channelOf = ({ line, slowestHz, warmUpS }: LookLine): ReadoutChannel => ({
  id: 'c',
  line,
  slowestHz: slowestHz ?? undefined,
  warmUpS,
});

/** What is asked for of a recording, in its own time; null for all of it. */
export function stretchOf(
  recording: Recording,
  { fromS, toS }: { readonly fromS: number | null; readonly toS: number | null },
): Stretch | null {
  if (fromS === null && toS === null) return null;
  return { fromS: fromS ?? recording.firstTimeS ?? 0, toS: toS ?? recording.lastTimeS ?? 0 };
}

/** A line that does not run is the asker's to mend. */
export async function runnable<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (!(error instanceof LineError)) throw error;
    throw new ProblemError(
      422,
      'line-does-not-run',
      'The signal line has an error',
      error.message,
      'Fix the line on the Line page, then try again.',
      error.stage ? `line.${error.stage.id}` : undefined,
    );
  }
}

/** Unit that a line's readings of a recording come in. */
export const unitOf = (recording: Recording, { line, slowestHz }: ReadoutChannel) =>
  compileLine(line, { sampleRateHz: recording.sampleRateHz, slowestHz }).outputs[0]!.unit;
