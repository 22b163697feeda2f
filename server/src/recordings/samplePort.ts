import type { MessagePort } from 'node:worker_threads';
import { ProblemError, problemFrom } from '../http/problem.ts';
import type { Placed } from './pieces.ts';

/** Chunks that go together: each message takes as long as some thousand samples. */
const CHUNKS_TOGETHER = 16;
/** Messages on their way: the next is made while one is being worked on, and no more pile up. */
const MOST_ON_THEIR_WAY = 4;

/** What comes over a port: samples, that there are no more, or what is wrong with them. */
type Message =
  | { readonly kind: 'samples'; readonly placed: readonly Placed[] }
  | { readonly kind: 'end' }
  | { readonly kind: 'problem'; readonly problem: ProblemError['problem'] };

/** Hands samples over to another thread. What was sent is no longer here. */
export class SampleSender {
  private readonly port: MessagePort;
  private onTheirWay = 0;
  private wake = () => {};

  constructor(port: MessagePort) {
    this.port = port;
    port.on('message', () => {
      this.onTheirWay--;
      this.wake();
    });
  }

  /** Sends all that comes, the end of it, or what is wrong with it. */
  async sendAll(all: AsyncIterable<Placed>): Promise<void> {
    let together: Placed[] = [];
    try {
      for await (const placed of all) {
        together.push(placed);
        if (together.length < CHUNKS_TOGETHER) continue;
        await this.send(together);
        together = [];
      }
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error;
      return this.fail(error);
    }
    if (together.length > 0) await this.send(together);
    this.end();
  }

  /** Waits until there is room for more. */
  async send(placed: readonly Placed[]): Promise<void> {
    const buffers = placed.flatMap(({ samples: { times, columns } }) =>
      [times, ...columns].map((c) => c.buffer),
    );
    this.onTheirWay++;
    this.tell({ kind: 'samples', placed }, [...new Set(buffers as ArrayBuffer[])]);
    while (this.onTheirWay >= MOST_ON_THEIR_WAY) await new Promise<void>((taken) => (this.wake = taken));
  }

  end(): void {
    this.tell({ kind: 'end' });
  }

  fail({ problem }: ProblemError): void {
    this.tell({ kind: 'problem', problem });
  }

  private tell(message: Message, hand: ArrayBuffer[] = []): void {
    this.port.postMessage(message, hand);
  }
}

/**
 * Samples that another thread hands over, as they come together. The port is closed when no more are wanted.
 * @param failed rejects when they will not come
 * @throws {ProblemError} what is wrong with them
 */
export async function* receiveSamples(
  port: MessagePort,
  failed: Promise<never> = new Promise(() => undefined),
): AsyncGenerator<readonly Placed[]> {
  const waiting: Message[] = [];
  let wake = () => {};
  port.on('message', (message: Message) => {
    waiting.push(message);
    wake();
  });
  try {
    for (;;) {
      const message = waiting.shift();
      if (!message) {
        await Promise.race([failed, new Promise<void>((next) => (wake = next))]);
        continue;
      }
      if (message.kind === 'end') return;
      if (message.kind === 'problem') throw problemFrom(message.problem);
      port.postMessage('taken');
      yield message.placed;
    }
  } finally {
    port.close();
  }
}
