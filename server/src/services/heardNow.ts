import type { LiveBench } from '../capture/liveBench.ts';
import type { Bench } from './bench.ts';

/** What a linked gadget is heard by, or why nothing is heard of it now, in words. */
export function heardNow(bench: Bench, gadgetId: string): LiveBench | string {
  const runner = bench.links.of(gadgetId);
  if (!runner) return 'This gadget has no link.';
  runner.live.run();
  if (runner.live.raw.length === 0) return 'No readings yet.';
  return runner.status.state === 'up' ? runner.live : 'No data from the link.';
}
