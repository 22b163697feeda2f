import type { Knex } from 'knex';
import type { Recording } from '@lucky-needle/core/model';
import type { ReadoutChannel } from '@lucky-needle/core/reading';
import { walkSamples } from '../recordings/pieces.ts';
import type { Samples } from '../recordings/sampleStore.ts';
import { beginningOf } from './beginningOf.ts';
import { SegmentRun, type ReadingVisitor } from './segmentRun.ts';

/**
 * Readings of the same moments by two lines, in order.
 * @param changed what the second is given of the samples; all as they are where not given
 */
export async function pairedReadings(
  knex: Knex,
  recording: Recording,
  [first, second]: readonly [ReadoutChannel, ReadoutChannel],
  visit: (timeS: number, first: number, second: number) => void,
  changed: (samples: Samples) => Samples = (samples) => samples,
): Promise<void> {
  const runs = [
    new SegmentRun(recording, first, await beginningOf(knex, recording, first)),
    new SegmentRun(recording, second, await beginningOf(knex, recording, second)),
  ] as const;
  const waiting: [timeS: number[], value: number[]][] = [
    [[], []],
    [[], []],
  ];
  const into = (k: number): ReadingVisitor => ({
    reading(timeS, value) {
      waiting[k]![0].push(timeS);
      waiting[k]![1].push(value);
    },
    gap: () => undefined,
  });
  for await (const { samples } of walkSamples(knex, recording, { piece: 0, chunk: 0 })) {
    runs[0].feed(samples, into(0));
    runs[1].feed(changed(samples), into(1));
    const [[t0, v0], [t1, v1]] = waiting as [[number[], number[]], [number[], number[]]];
    let [i, j] = [0, 0];
    while (i < t0.length && j < t1.length) {
      if (t0[i]! < t1[j]!) i++;
      else if (t0[i]! > t1[j]!) j++;
      else visit(t0[i]!, v0[i++]!, v1[j++]!);
    }
    // What one of them has given and the other not yet waits for it.
    waiting[0] = [t0.slice(i), v0.slice(i)];
    waiting[1] = [t1.slice(j), v1.slice(j)];
  }
}
