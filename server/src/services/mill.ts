import { loadMill } from '@lucky-needle/demo';
import type { Gadget } from '@lucky-needle/core/model';
import type { Bench } from './bench.ts';
import type { Services } from './services.ts';

/** Lets Quillmere Mill in through the services that serve everyone. */
export function loadDemoMill(bench: Bench, services: Services): Promise<Gadget> {
  const { gadgets, links, trueUp, recordings } = services;
  return loadMill({
    create: gadgets.create,
    patch: gadgets.patch,
    keepPoint: (gadgetId, input, at) => trueUp.keepPoint(gadgetId, input, at),
    calibrate: (gadgetId, input, at) => trueUp.calibrate(gadgetId, input, at),
    storeBoardText: recordings.storeBoardText,
    attachSimulator: links.attachSimulator,
    now: bench.now,
  });
}
