import { decodeSampleBlock, type SampleBlock } from '@lucky-needle/core/formats';
import { problemOf } from './problemOf.ts';

/** Samples of a recording, or of a stretch of it in its own time, as a binary block, thinned on the server when they are more than `points`. */
export async function fetchWindow(
  recordingId: string,
  points: number,
  signal: AbortSignal | null,
  stretch: { readonly fromS: number; readonly toS: number } | null = null,
): Promise<SampleBlock> {
  const between = stretch ? `&from=${stretch.fromS}&to=${stretch.toS}` : '';
  const response = await fetch(`/api/recordings/${recordingId}/window?points=${points}${between}`, {
    signal,
  });
  if (!response.ok)
    throw new Error(problemOf({ status: response.status, data: await response.text() })!.detail);
  return decodeSampleBlock(await response.arrayBuffer());
}
