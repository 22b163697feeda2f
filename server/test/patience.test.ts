import { describe, expect, it } from 'vitest';
import { TEMPLATES } from '@lucky-needle/core/plan';
import { recordingCounts } from '../src/readings/recordingCounts.ts';
import { Patience } from '../src/services/patience.ts';
import { storedRun } from './storedRun.ts';

const turn = () => new Promise<void>((done) => setImmediate(done));

describe('work that takes long', () => {
  it('tells how far it is, and its answer once it is there', async () => {
    const patience = new Patience<string>();
    let end: (text: string) => void = () => undefined;
    const start = (told: (share: number) => void) => {
      told(0.4);
      return new Promise<string>((done) => (end = done));
    };
    expect(await patience.ask('a', start)).toBe(0.4);
    end('done');
    expect(await patience.ask('a', start)).toBe('done');
  });

  it('ends when nobody asks any more, and is begun anew for who asks then, who is told no error', async () => {
    const patience = new Patience<string>(0);
    let begun = 0;
    const start = async (told: (share: number) => void) => {
      const isSecond = begun++ > 0;
      while (!isSecond) {
        await turn();
        // Always long ago: the first ends as if it were forgotten.
        told(0.1);
      }
      return 'the second';
    };
    expect(await patience.ask('a', start)).toBe(0);
    expect(await patience.ask('a', start)).toBe('the second');
    expect(begun).toBe(2);
  });

  it('tells the errors of the work itself', async () => {
    const patience = new Patience<string>();
    await expect(patience.ask('a', () => Promise.reject(new RangeError('broken')))).rejects.toThrow('broken');
  });
});

describe('a long walk through a recording', () => {
  it('lets everything else have its turn', async () => {
    const n = 600_000;
    const times = Float64Array.from({ length: n }, (_, i) => i / 1000);
    const { database, recording } = await storedRun({ p1: times.map((t) => 500 + (t % 7)) }, times, 1000);
    const gadget = TEMPLATES.find((t) => t.id === 'several-temperatures')!.make();
    const [channel] = gadget.channels;
    let isDone = false;
    const counting = recordingCounts(database.knex, recording, [
      { id: 'p1', line: channel!.line, watch: undefined },
      {
        id: 'rise',
        line: channel!.line,
        watch: {
          watches: [],
          figures: channel!.figures!.filter((f) => f.others.length === 0),
          budget: null,
          sensor: null,
          otherBudgets: {},
          otherSensors: {},
          clockShare: null,
          isDirection: false,
        },
      },
    ]).finally(() => (isDone = true));
    let turns = 0;
    while (!isDone) {
      await turn();
      turns++;
    }
    await counting;
    expect(turns).toBeGreaterThan(5);
    await database.close();
  });
});
