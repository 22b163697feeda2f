import { parentPort, type MessagePort } from 'node:worker_threads';
import type { Recording } from '@lucky-needle/core/model';
import { ProblemError } from '../http/problem.ts';
import { receiveSamples, SampleSender } from '../recordings/samplePort.ts';
import { growView, type ShortView } from './growView.ts';
import type { Growth } from './viewStore.ts';

/** Pieces of views on their way to be kept: more are made meanwhile, and no more pile up. */
const MOST_ON_THEIR_WAY = 4;

/** How far it has come is told now and then: each message takes as long as some thousand samples. */
const TELL_EACH = 4;

/** What the thread is told: views to grow by samples that come over a port and go on to another, and that a piece was kept. */
export type ToGrower =
  | {
      readonly kind: 'grow';
      readonly recording: Recording;
      readonly views: readonly ShortView[];
      readonly from: MessagePort;
      readonly to: MessagePort | null;
    }
  | { readonly kind: 'kept' };

/** What it tells: pieces of views to be kept, how far it has come, that all is made, or what is wrong with the samples. */
export type FromGrower =
  | { readonly kind: 'segments'; readonly id: string; readonly growth: Growth }
  | { readonly kind: 'reached'; readonly timeS: number }
  | { readonly kind: 'done' }
  | { readonly kind: 'problem'; readonly problem: ProblemError['problem'] };

/** Runs lines over recordings on a thread of its own, one recording after the other. */
const port = parentPort!;
const tell = (message: FromGrower, hand: ArrayBuffer[] = []) => port.postMessage(message, hand);
let onTheirWay = 0;
let wake = () => {};
port.on('message', (message: ToGrower) => {
  if (message.kind === 'grow') return void grow(message);
  onTheirWay--;
  wake();
});

async function grow({ recording, views, from, to }: ToGrower & { kind: 'grow' }): Promise<void> {
  const on = to && new SampleSender(to);
  const growing = views.map((view) =>
    growView(recording, view, async (growth) => {
      onTheirWay++;
      const overviews = growth.made.flatMap((segment) => Object.values(segment.overviews));
      tell(
        { kind: 'segments', id: view.id, growth },
        overviews.map(({ buffer }) => buffer as ArrayBuffer),
      );
      while (onTheirWay >= MOST_ON_THEIR_WAY) await new Promise<void>((kept) => (wake = kept));
    }),
  );
  let [come, lastS] = [0, Number.NaN];
  try {
    for await (const together of receiveSamples(from)) {
      for (const { at, samples } of together) for (const view of growing) await view.take(at, samples);
      lastS = together.at(-1)!.samples.times.at(-1)!;
      await on?.send(together);
      if (++come % TELL_EACH === 0) tell({ kind: 'reached', timeS: lastS });
    }
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error;
    return tell({ kind: 'problem', problem: error.problem });
  }
  on?.end();
  if (come > 0) tell({ kind: 'reached', timeS: lastS });
  for (const view of growing) await view.end();
  while (onTheirWay > 0) await new Promise<void>((kept) => (wake = kept));
  tell({ kind: 'done' });
}
