import type { Bench } from './bench.ts';
import { gadgetService } from './gadgets.ts';
import { partsService } from './parts.ts';
import { recordingService } from './recordings.ts';
import { trueUpService } from './trueUp.ts';

export function createServices(bench: Bench) {
  return {
    gadgets: gadgetService(bench),
    parts: partsService(bench),
    trueUp: trueUpService(bench),
    recordings: recordingService(bench),
  };
}

export type Services = ReturnType<typeof createServices>;
