import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import type {
  AiringNow,
  Calibration,
  CalibrationPoint,
  Gadget,
  LampLight,
  Problem,
} from '@lucky-needle/core/model';
import { openBench, SIMULATED, type TestBench } from './bench.ts';

let bench: TestBench;
beforeAll(async () => {
  bench = await openBench();
});
afterAll(() => bench.close());

const PATIENT = { timeout: 40_000, interval: 100 };

async function made(template: string) {
  const gadget = (await bench.call<Gadget>('POST', '/api/gadgets', { template, name: template })).body;
  const at = (what: string) => `/api/gadgets/${gadget.id}/${what}`;
  return {
    gadget,
    link: () => bench.call('POST', at('link'), SIMULATED),
    set: (patch: object) => bench.call('PATCH', at('link'), patch),
    look: async <T>(what: string) => (await bench.call<T>('GET', at(what))).body,
    act: <T>(what: string, body: object) => bench.call<T & Problem>('POST', at(what), body),
    listed: async <T>(what: string) => (await bench.call<{ items: T[] }>('GET', at(what))).body.items,
    read: async () => await bench.call<Gadget>('GET', at('')).then((r) => r.body),
  };
}

describe('one airing for all heated elements', () => {
  it('is refused with its reason until all are warm and stand still, and then keeps all of them', async () => {
    const { gadget, link, set, look, act, listed } = await made('gas-watch');
    const keep = (within = 0.2) => act<{ items: Calibration[] }>('airing', { within });
    expect((await keep()).body).toMatchObject({ status: 422, detail: 'This gadget has no link.' });
    await link();
    await set({ condition: 'clean', speed: 20 });
    // No part is picked, so nobody knows when it is warm; it may still creep.
    await vi.waitFor(async () => {
      const air = await look<AiringNow>('airing');
      expect(air).toMatchObject({ waitingFor: null, coldS: null });
      expect(air.elements.map((e) => e.channelId)).toEqual(gadget.channels.map((c) => c.id));
      for (const { counts, level } of air.elements) {
        expect(counts).toBeGreaterThan(0);
        expect(level).toBeGreaterThan(0);
      }
    }, PATIENT);
    expect((await keep(0)).status).toBe(422);
    expect(await listed('points')).toHaveLength(0);
    const kept = await vi.waitFor(async () => {
      const done = await keep();
      expect(done.status).toBe(201);
      return done.body.items;
    }, PATIENT);
    expect(kept.map((c) => [c.channelId, c.state])).toEqual(gadget.channels.map((c) => [c.id, 'in use']));
    const points = await listed<CalibrationPoint>('points');
    expect(points.map((p) => p.reference.kind)).toEqual(gadget.channels.map(() => 'clean-air'));
    for (const { capture } of points) expect(capture.durationS).toBeGreaterThan(8);
    // What is heard no more is not kept.
    await set({ plugged: false });
    expect((await keep()).body.detail).toBe('No data from the link.');
    expect(await listed('points')).toHaveLength(points.length);
  });

  it('counts down the warm-up of the parts that are picked', async () => {
    const { gadget, link, set, look, act } = await made('gas-watch');
    const picks = ['ferment', 'ammonia', 'solvent'].map((slot) => ({
      slot,
      partId: `heated-${slot}`,
      converterId: null,
      reason: '',
    }));
    const picked = await bench.call<Gadget>(
      'PATCH',
      `/api/gadgets/${gadget.id}`,
      { picks },
      {
        'If-Match': `"${gadget.version}"`,
      },
    );
    expect(picked.body.picks).toHaveLength(3);
    await link();
    await set({ condition: 'clean' });
    await vi.waitFor(async () => {
      const { waitingFor, coldS } = await look<AiringNow>('airing');
      expect(waitingFor).toMatch(/^Still warming up: (29\d|300) s left\.$/);
      expect(coldS).toBeGreaterThan(280);
    }, PATIENT);
    expect((await act<object>('airing', { within: 0.2 })).body.detail).toMatch(/^Still warming up/);
  });

  it('means nothing without such an element', async () => {
    const { look, act } = await made('displacement');
    expect((await look<AiringNow>('airing')).waitingFor).toBe('No channel uses a heated gas sensor.');
    expect((await act('airing', { within: 0.2 })).status).toBe(422);
    expect((await act('lamp-light', { as: 'dark' })).body.detail).toBe('No channel measures absorbance.');
    expect((await act('lamp-light', { as: 'bright' })).status).toBe(422);
  });
});

describe('dark and blank of all lamps', () => {
  it('are what was just shown as ready, although the very next look refuses it', async () => {
    const { link, set, look, act, read } = await made('absorbance');
    await link();
    const dark = await vi.waitFor(async () => {
      await set({ condition: 'dark', speed: 20 });
      let shown: LampLight | null = null;
      const isDark = async () => {
        const light = await look<LampLight>('lamp-light');
        if (light.notDark === null) shown = light;
        return light.notDark === null;
      };
      await vi.waitFor(async () => expect(await isDark()).toBe(true), PATIENT);
      await set({ condition: 'blank' });
      await vi.waitFor(async () => expect(await isDark()).toBe(false), PATIENT);
      expect((await act<Gadget>('lamp-light', { as: 'dark' })).status).toBe(200);
      return (shown as LampLight | null)!.lamps.find((l) => l.channelId === 'l470')!.counts!;
    }, PATIENT);
    const stage = (await read()).channels
      .find((c) => c.id === 'l470')!
      .line.stages.find((s) => s.kind === 'absorbance')!;
    expect(stage.params['dark']).toBe(Number(dark.toPrecision(6)));
  });

  it('are taken as they stand, put in all lines in one act, and refused where they are none', async () => {
    const { gadget, link, set, look, act, read } = await made('absorbance');
    const keep = (as: string) => act<Gadget>('lamp-light', { as });
    const light = () => look<LampLight>('lamp-light');
    expect(await light()).toMatchObject({
      notDark: 'This gadget has no link.',
      notBlank: 'This gadget has no link.',
    });
    await link();
    await set({ condition: 'dark', speed: 20 });
    await vi.waitFor(async () => expect((await light()).notDark).toBe(null), PATIENT);
    const { body: refused } = await keep('blank');
    expect(refused.detail).toMatch(/^Not enough light for a blank: 470 nm gives 1\d\d counts/);
    expect((await read()).version).toBe(gadget.version);
    expect(
      (
        await vi.waitFor(async () => {
          const done = await keep('dark');
          expect(done.status).toBe(200);
          return done.body;
        }, PATIENT)
      ).version,
    ).toBe(gadget.version + 1);
    await set({ condition: 'blank' });
    const saved = await vi.waitFor(async () => {
      const done = await keep('blank');
      expect(done.status).toBe(200);
      return done.body;
    }, PATIENT);
    const paramOf = (g: Gadget, id: string, name: string) =>
      g.channels.find((c) => c.id === id)!.line.stages.find((s) => s.kind === 'absorbance')!.params[name];
    for (const name of ['dark', 'blank'] as const) {
      expect(paramOf(saved, 'strength', name)).toBe(paramOf(saved, 'l525', name));
      expect(paramOf(saved, 'l470', name)).not.toBe(paramOf(gadget, 'l470', name));
    }
    // Through what was the blank, nothing is swallowed.
    await vi.waitFor(async () => {
      for (const { absorbance } of (await light()).lamps)
        expect(Math.abs(absorbance!.value)).toBeLessThan(0.005);
    }, PATIENT);
    // Before the lamps stand still again nobody knows what they are.
    await vi.waitFor(async () => {
      const refused = await keep('dark');
      expect(refused.status).toBe(422);
      expect(refused.body.detail).toMatch(/^Not dark: 470 nm gives/);
    }, PATIENT);
    expect(JSON.stringify(await look('logbook'))).toMatch(/Captured the blank of 5 lamps: /);
  });
});
