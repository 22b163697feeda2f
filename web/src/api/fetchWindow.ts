import { decodeSampleBlock, type SampleBlock } from '@lucky-needle/core/formats';
import { problemOf } from './problemOf.ts';

/** A recording's samples as a binary block, thinned on the server when they are more than `points`. */
export async function fetchWindow(
  recordingId: string,
  points: number,
  signal: AbortSignal,
): Promise<SampleBlock> {
  const response = await fetch(`/api/recordings/${recordingId}/window?points=${points}`, { signal });
  if (!response.ok)
    throw new Error(problemOf({ status: response.status, data: await response.text() })!.detail);
  return decodeSampleBlock(await response.arrayBuffer());
}
