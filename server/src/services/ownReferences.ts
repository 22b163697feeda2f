import { randomUUID } from 'node:crypto';
import type { NewOwnReference, OwnReference } from '@lucky-needle/core/model';
import { notFound, staleVersion } from '../http/problem.ts';
import type { Bench } from './bench.ts';

/** The maker's own references, with the day each was last checked. */
export function ownReferencesService(bench: Bench) {
  const { ownReferences } = bench.tables;

  async function find(id: string): Promise<OwnReference> {
    const found = await ownReferences.find(id);
    if (!found) throw notFound('own reference', id);
    return found;
  }

  return {
    list: () => ownReferences.list(),

    async add(reference: NewOwnReference): Promise<OwnReference> {
      const id = randomUUID();
      await ownReferences.insert(id, reference, bench.now());
      bench.changedForAll('references');
      return find(id);
    },

    async replace(id: string, version: string, reference: NewOwnReference): Promise<OwnReference> {
      const now = await find(id);
      if (version !== String(now.version) || !(await ownReferences.update(id, reference, now.version)))
        throw staleVersion(version, (await find(id)).version);
      bench.changedForAll('references');
      return find(id);
    },

    /** Deleting hides; points that were kept with it have its value and day in them and stay as they are. */
    async remove(id: string): Promise<void> {
      await find(id);
      await ownReferences.setDeleted(id, bench.now());
      bench.changedForAll('references');
    },

    async restore(id: string): Promise<OwnReference> {
      if (!(await ownReferences.setDeleted(id, null))) throw notFound('own reference', id);
      bench.changedForAll('references');
      return find(id);
    },
  };
}
