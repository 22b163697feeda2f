import type { OwnPart, Part, PartsImported } from '@lucky-needle/core/model';
import {
  partFaults,
  partsFromCsv,
  partsFromJson,
  partsToCsv,
  partsToJson,
  SHELF,
  shelfWith,
} from '@lucky-needle/core/plan';
import { ProblemError, notFound, staleVersion } from '../http/problem.ts';
import type { Bench } from './bench.ts';

export type PartsFormat = 'csv' | 'json';

/** The maker's own parts beside the bench's shelf. */
export function partsService(bench: Bench) {
  const { parts } = bench.tables;

  async function find(id: string): Promise<OwnPart> {
    const own = await parts.find(id);
    if (!own) throw notFound('custom part', id);
    return own;
  }

  return {
    list: () => parts.list(),

    /** The bench's shelf and the maker's parts together. */
    async shelf(): Promise<Part[]> {
      return shelfWith((await parts.list()).map((o) => o.part));
    },

    async add(part: Part): Promise<OwnPart> {
      checkPart(part);
      if (SHELF.some((p) => p.id === part.id) || !(await parts.insert(part, bench.now())))
        throw new ProblemError(
          409,
          'id-in-use',
          'Id already used',
          `The shelf already has a part with the id "${part.id}".`,
          'Give the part another id.',
          'id',
        );
      bench.changedForAll('parts');
      return find(part.id);
    },

    async replace(id: string, version: string, part: Part): Promise<OwnPart> {
      const now = await find(id);
      if (part.id !== id)
        throw new ProblemError(
          422,
          'id-fixed',
          'Id cannot be changed',
          `The id of a part cannot be changed: it is "${id}"; received "${part.id}".`,
          'To use another id, copy the part.',
          'id',
        );
      checkPart(part);
      if (version !== String(now.version) || !(await parts.update(part, now.version, bench.now())))
        throw staleVersion(version, (await find(id)).version);
      bench.changedForAll('parts');
      return find(id);
    },

    /** Deleting hides; restoring shows again. A gadget that uses the part keeps its pick and says that the part is gone. */
    async remove(id: string): Promise<void> {
      await find(id);
      await parts.setDeleted(id, bench.now());
      bench.changedForAll('parts');
    },

    async restore(id: string): Promise<OwnPart> {
      if (!(await parts.setDeleted(id, null))) throw notFound('deleted custom part', id);
      bench.changedForAll('parts');
      return find(id);
    },

    /** Good rows are kept, bad ones reported; a part of one's own with the same id is replaced. */
    async importFile(text: string, format: PartsFormat): Promise<PartsImported> {
      const read = format === 'csv' ? partsFromCsv(text) : partsFromJson(text);
      const issues = [...read.issues];
      const added: string[] = [];
      const replaced: string[] = [];
      for (const part of read.parts) {
        if (SHELF.some((p) => p.id === part.id)) {
          // An exported shelf brought back holds the bench's own parts too: what is the same needs no word.
          const same = JSON.stringify(SHELF.find((p) => p.id === part.id)) === JSON.stringify(part);
          if (!same)
            issues.push({
              row: 0,
              code: 'twice',
              field: 'id',
              message: `"${part.id}" is a built-in part. Give yours another id.`,
            });
          continue;
        }
        const present = await parts.find(part.id);
        if (present) {
          await parts.update(part, present.version, bench.now());
          replaced.push(part.id);
        } else {
          await parts.insert(part, bench.now());
          added.push(part.id);
        }
      }
      if (added.length + replaced.length > 0) bench.changedForAll('parts');
      return { added, replaced, issues: issues.sort((a, b) => a.row - b.row) };
    },

    /** The maker's parts as a file, or with the bench's shelf as well. */
    async exportFile(format: PartsFormat, whole: boolean): Promise<string> {
      const own = (await parts.list()).map((o) => o.part);
      const wanted = whole ? shelfWith(own) : own;
      return format === 'csv' ? partsToCsv(wanted) : partsToJson(wanted);
    },
  };
}

/** The rules a schema cannot tell. */
function checkPart(part: Part): void {
  const [fault] = partFaults(part);
  if (fault)
    throw new ProblemError(
      422,
      'invalid-part',
      'Invalid part',
      fault.message,
      'Correct this and save again. Nothing was changed.',
      fault.field,
    );
}
