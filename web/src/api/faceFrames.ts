import type { Frames, FramesAnswer } from '@lucky-needle/core/model';
import { problemOf } from './problemOf.ts';

/** Between two questions how far it is worked out. */
const AGAIN_MS = 200;

/** A run as its face would have shown it; the server is asked again until it is worked out. @throws {Error} in words */
export async function facesOfRun(
  recordingId: string,
  frames: number,
  signal: AbortSignal,
  told: (share: number) => void,
): Promise<Frames> {
  for (;;) {
    const response = await fetch(`/api/recordings/${recordingId}/face?frames=${frames}`, { signal });
    const text = await response.text();
    if (!response.ok) throw new Error(problemOf({ status: response.status, data: text })!.detail);
    const answer = JSON.parse(text) as FramesAnswer;
    if ('frames' in answer) return answer;
    told(answer.share);
    await new Promise((done) => setTimeout(done, AGAIN_MS));
  }
}
