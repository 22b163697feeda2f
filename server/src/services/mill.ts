import { existsSync } from 'node:fs';
import { readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { loadMill } from '@lucky-needle/demo';
import type { Gadget } from '@lucky-needle/core/model';
import type { Bench } from './bench.ts';
import { owePast } from './millPast.ts';
import type { Services } from './services.ts';

/** Stands in the data folder while the mill is let in, with the gadgets that were there before. */
const markerOf = ({ dataDir }: Bench) => join(dataDir, 'mill-being-loaded.json');

/** Lets Quillmere Mill in through the services that serve everyone. */
export async function loadDemoMill(bench: Bench, services: Services): Promise<Gadget> {
  const { gadgets, links, studies, trueUp, recordings } = services;
  const before = (await bench.knex('gadgets').select('id')) as { id: string }[];
  await writeFile(markerOf(bench), JSON.stringify(before.map((g) => g.id)));
  const made: string[] = [];
  const first = await loadMill({
    async create(input, at) {
      const gadget = await gadgets.create(input, at);
      made.push(gadget.id);
      return gadget;
    },
    patch: gadgets.patch,
    keepPoint: (gadgetId, input, at) => trueUp.keepPoint(gadgetId, input, at),
    calibrate: (gadgetId, input, at) => trueUp.calibrate(gadgetId, input, at),
    storeBoardText: recordings.storeBoardText,
    attachSimulator: links.attachSimulator,
    async study(gadgetId, { of, told, rows, from }, at) {
      const { study } = await studies.begin(gadgetId, of, at);
      const body = {
        ...told,
        title: study.title,
        rows: rows.map((values, i) => ({ id: `r${i}`, values, from: { kind: from }, excluded: null })),
        stretches: [],
      };
      await studies.replace(study.id, String(study.version), body, at);
    },
    now: bench.now,
  });
  await owePast(bench, made);
  await rm(markerOf(bench), { force: true });
  bench.pastOwed();
  return first;
}

/** A mill that a server was letting in when it ended is let in whole. @returns whether there was one */
export async function finishDemoMill(bench: Bench, services: Services): Promise<boolean> {
  const marker = markerOf(bench);
  if (!existsSync(marker)) return false;
  const before = JSON.parse(await readFile(marker, 'utf8').catch(() => 'null')) as string[] | null;
  if (Array.isArray(before)) {
    const half = (await bench.knex('gadgets').whereNotIn('id', before).select('id', 'place')) as {
      id: string;
      place: string;
    }[];
    // Only what belongs to the mill: a maker may have begun a gadget meanwhile.
    for (const { id, place } of half)
      if (place.includes('"Quillmere Mill')) {
        bench.links.stop(id);
        await bench.knex('gadgets').where({ id }).delete();
      }
  }
  await loadDemoMill(bench, services);
  return true;
}
