import type { Gadget, GadgetPatch } from '@lucky-needle/core/model';

/** Sections to save, or how they follow from the newest state of the gadget. */
export type PatchOf = GadgetPatch | ((newest: Gadget) => GadgetPatch);

/** Sends sections that were made from a version; null when they were refused. */
type Send = (patch: GadgetPatch, version: number) => Promise<Gadget | null>;

const last = new Map<string, Promise<Gadget | null>>();

/**
 * Saves of one page go one after another, each on top of what the one before left: a maker who picks three parts
 * faster than a busy server answers has picked three parts, and is not told of “another window”.
 * Sections given as they are, which a save before has changed since they were read, are still sent as an edit of what
 * was shown, so that the server refuses them and nothing is overwritten.
 */
export function saveInTurn(shown: Gadget, patch: PatchOf, send: Send): Promise<Gadget | null> {
  const mine = (last.get(shown.id) ?? Promise.resolve(null)).then((before) => {
    const newest = before && before.version > shown.version ? before : shown;
    if (typeof patch === 'function') return send(patch(newest), newest.version);
    return send(patch, hasChanged(patch, shown, newest) ? shown.version : newest.version);
  });
  // One that failed leaves nothing to build on: the next goes by what is shown.
  last.set(
    shown.id,
    mine.catch(() => null),
  );
  return mine;
}

function hasChanged(patch: GadgetPatch, shown: Gadget, newest: Gadget): boolean {
  const sections = Object.keys(patch) as (keyof GadgetPatch)[];
  return sections.some((s) => JSON.stringify(shown[s]) !== JSON.stringify(newest[s]));
}
