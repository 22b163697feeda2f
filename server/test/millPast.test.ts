import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { MILL_PAST, truthOf } from '@lucky-needle/demo';
import type { Gadget, Recording, Trial, TrialsAnswer } from '@lucky-needle/core/model';
import { beganAt } from '../src/services/millPast.ts';
import { freshFolder, openBench, until, type TestBench } from './bench.ts';

let bench: TestBench;
let gadgets: Gadget[];
const dataDir = freshFolder();
const isIn = () => !existsSync(join(dataDir, 'mill-past-to-come.json'));
const gadgetOf = (template: string) => gadgets.find((g) => g.template === template)!;
const trialsOf = async (template: string) =>
  (
    (
      await until(
        () =>
          bench.call<TrialsAnswer>('POST', `/api/gadgets/${gadgetOf(template).id}/trials`, { rule: null }),
        ({ body }) => 'trials' in body,
      )
    ).body as Extract<TrialsAnswer, { trials: unknown }>
  ).trials;
const shown = (trial: Trial, id: string) => trial.figures.find((f) => f.id === id)!;

describe('when past runs began', () => {
  it.each(['00:01', '09:59', '12:00', '23:58'])(
    'is long ago, and never on two days for runs of one, let in at %s',
    (at) => {
      const now = new Date(`2026-03-05T${at}:00`);
      for (const { runs } of MILL_PAST) {
        const dates = new Map<number, string>();
        for (const run of runs) {
          const began = new Date(beganAt(run, now.getTime()));
          expect(began.getTime()).toBeLessThan(now.getTime());
          expect(dates.get(run.daysAgo) ?? began.toDateString()).toBe(began.toDateString());
          dates.set(run.daysAgo, began.toDateString());
        }
      }
    },
  );
});

describe('the weeks that the mill’s gadgets have behind them', () => {
  beforeAll(async () => {
    bench = await openBench({}, { demo: true, past: true, dataDir });
    // The server ends in the middle of it: the next one goes on with what is left.
    await until(
      async () => (await bench.call<{ items: Gadget[] }>('GET', '/api/gadgets?limit=200')).body.items.length,
      (n) => n === 14,
    );
    await bench.server.close();
    expect(isIn()).toBe(false);
    bench = await openBench({}, { past: true, dataDir });
    gadgets = (await bench.call<{ items: Gadget[] }>('GET', '/api/gadgets?limit=200')).body.items;
    await until(
      () => Promise.resolve(isIn()),
      (yes) => yes,
    );
  }, 120_000);
  afterAll(() => bench.close());

  it('are there once for each, with labels, in every family', async () => {
    for (const { template, runs } of MILL_PAST) {
      const { body } = await bench.call<{ items: Recording[] }>(
        'GET',
        `/api/gadgets/${gadgetOf(template).id}/recordings?limit=200`,
      );
      const names = body.items.map((r) => r.name);
      for (const { name } of runs)
        expect(
          names.filter((n) => n === name),
          name,
        ).toHaveLength(1);
      // What its world was made to do stands in a run as marks.
      for (const { name, steps } of runs)
        expect(body.items.find((r) => r.name === name)!.markers.map((m) => m.isTruth)).toEqual(
          Array(steps.length - 1).fill(true),
        );
      const trials = await trialsOf(template);
      expect(trials.length, template).toBeGreaterThanOrEqual(runs.length);
      const labels = new Set(trials.map((t) => t.label).filter((l) => l !== ''));
      expect(labels.size, template).toBeGreaterThanOrEqual(2);
    }
    expect(MILL_PAST.map((p) => p.template).toSorted()).toEqual(gadgets.map((g) => g.template).toSorted());
  });

  it('hold what the world hid: races, sprints, cells, strokes and pieces', async () => {
    const races = await trialsOf('crossing-timer');
    const { courseM } = truthOf('crossing-timer') as { courseM: number };
    const race = MILL_PAST.find((p) => p.template === 'crossing-timer')!.runs;
    expect(races).toHaveLength(race.length);
    races.forEach((trial, k) => {
      const { duckSpeed } = race[k]!.change as { duckSpeed: number };
      // The beam has a width, and a ping its pace: a tenth of a second is what a judge with a watch could not tell.
      expect(Math.abs(shown(trial, 'time').value! - courseM / duckSpeed), trial.runName).toBeLessThan(0.1);
    });
    expect(races.filter((t) => t.excluded !== null).map((t) => t.excluded)).toEqual([
      'a leaf fell through the beam',
    ]);

    const sprints = await trialsOf('sprint');
    expect(sprints.map((t) => t.label)).toEqual([
      ...Array(10).fill('old pole'),
      ...Array(10).fill('new pole'),
    ]);
    const mean = (label: string) => {
      const own = sprints.filter((t) => t.label === label).map((t) => shown(t, 'quick').value!);
      return own.reduce((a, b) => a + b, 0) / own.length;
    };
    // The boat is truly 0.3 s sooner with the new pole; means of ten tries tell that to some tenths.
    expect(Math.abs(mean('old pole') - mean('new pole') - 0.3)).toBeLessThan(0.2);

    for (const [k, cell] of (await trialsOf('cell-bench')).entries()) {
      const { capacityMah } = MILL_PAST.find((p) => p.template === 'cell-bench')!.runs[k]!.change as {
        capacityMah: number;
      };
      // Nobody has trued the shunt up: a few parts in a hundred as bought, and what it had lost at rest.
      expect(Math.abs(shown(cell, 'charge').value! / capacityMah - 1)).toBeLessThan(0.08);
    }

    for (const [k, sack] of (await trialsOf('motion-counter')).entries()) {
      const { strokesPerMin } = MILL_PAST.find((p) => p.template === 'motion-counter')!.runs[k]!.change as {
        strokesPerMin: number;
      };
      expect(Math.abs(shown(sack, 'cadence').value! - strokesPerMin)).toBeLessThan(0.2);
    }

    const pieces = (await trialsOf('displacement')).flatMap((t) => shown(t, 'piece').value ?? []);
    expect(pieces).toHaveLength(6);
    for (const piece of pieces) expect(Math.abs(piece - 0.3)).toBeLessThan(0.03);
  });
});
