import { describe, expect, it } from 'vitest';
import type { Gadget, GadgetPatch } from '@lucky-needle/core/model';
import { TEMPLATES } from '@lucky-needle/core/plan';
import { saveInTurn, type PatchOf } from '../src/parts/savesInTurn.ts';

let count = 0;

/** A gadget on a server that takes a while, and takes only an edit of its present version. */
function slowServer() {
  const made = TEMPLATES.find((t) => t.id === 'several-temperatures')!.make();
  const at = '2026-11-24T09:00:00Z';
  const shown: Gadget = {
    id: `g${++count}`,
    template: 'several-temperatures',
    name: 'G',
    version: 1,
    createdAt: at,
    updatedAt: at,
    ...made,
    picks: [],
  };
  let stands = shown;
  const sent: number[] = [];
  const send = async (patch: GadgetPatch, version: number) => {
    sent.push(version);
    await new Promise((go) => setTimeout(go, 2));
    if (version !== stands.version) return null;
    stands = { ...stands, ...patch, version: version + 1 };
    return stands;
  };
  return {
    shown,
    sent,
    stands: () => stands,
    otherWindow: (patch: GadgetPatch) => (stands = { ...stands, ...patch, version: stands.version + 1 }),
    save: (patch: PatchOf, from = shown) => saveInTurn(from, patch, send),
  };
}

const pick = (slot: string) => ({ slot, partId: `${slot}-part`, converterId: null, reason: '' });
const picking =
  (slot: string): PatchOf =>
  ({ picks }) => ({ picks: [...picks, pick(slot)] });

describe('saves of one page', () => {
  it('are made one on top of the other, however fast they come', async () => {
    const { save, stands, sent } = slowServer();
    const answers = await Promise.all(['board', 'display', 'temperature'].map((s) => save(picking(s))));
    expect(answers.every(Boolean)).toBe(true);
    expect(sent).toEqual([1, 2, 3]);
    expect(stands().picks.map((k) => k.slot)).toEqual(['board', 'display', 'temperature']);
  });

  it('let another section be saved as it stands, on top of what is still on its way', async () => {
    const { save, stands } = slowServer();
    const [, second] = await Promise.all([save(picking('board')), save({ name: 'Six beds' })]);
    expect(second).not.toBeNull();
    expect(stands()).toMatchObject({ name: 'Six beds', picks: [pick('board')], version: 3 });
  });

  it('never overwrite what a save before has changed in the same section', async () => {
    const { save, stands } = slowServer();
    const [, second] = await Promise.all([save(picking('board')), save({ picks: [pick('display')] })]);
    expect(second).toBeNull();
    expect(stands().picks).toEqual([pick('board')]);
  });

  it('are refused where another window was in between, and go on from what is shown then', async () => {
    const { save, shown, stands, otherWindow } = slowServer();
    otherWindow({ name: 'Theirs' });
    const [first, second] = await Promise.all([save(picking('board')), save(picking('display'))]);
    expect([first, second]).toEqual([null, null]);
    expect(stands()).toMatchObject({ name: 'Theirs', picks: shown.picks });
    expect(await save(picking('board'), stands())).toMatchObject({ name: 'Theirs', picks: [pick('board')] });
  });

  it('of one gadget do not wait for another', async () => {
    const one = slowServer();
    const other = slowServer();
    let isDone = false;
    void saveInTurn(one.shown, { name: 'Never answered' }, () => new Promise(() => {}));
    await other.save({ name: 'Answered' }).then(() => (isDone = true));
    expect(isDone).toBe(true);
  });

  it('that fail altogether do not hold up the next', async () => {
    const { save, shown, stands } = slowServer();
    const failing = saveInTurn(shown, { name: 'X' }, () => Promise.reject(new Error('gone')));
    await expect(failing).rejects.toThrow('gone');
    await save(picking('board'));
    expect(stands().picks).toEqual([pick('board')]);
  });
});
