import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { familyGadget } from './support/familyGadget.ts';
import { noPulses, pulses, type Pulse } from '../src/detect/pulses.ts';
import type { WatchedEvent } from '../src/detect/index.ts';
import { readoutSpec } from '../src/plan/index.ts';
import { createWatchedReadout } from '../src/reading/index.ts';
import { createWorld, FAMILIES } from '../src/simulate/index.ts';

describe('readings that nothing comes of', () => {
  it('can be passed over by pulses: the last of them tells as much as all', () => {
    const value = fc.oneof(fc.integer({ min: -3, max: 12 }), fc.constant(Number.NaN));
    const rule = fc.record({
      hysteresis: fc.integer({ min: 0, max: 3 }),
      n: fc.integer({ min: 1, max: 2 }),
      m: fc.integer({ min: 2, max: 3 }),
    });
    fc.assert(
      fc.property(fc.array(value, { maxLength: 60 }), rule, (values, options) => {
        const x = Float64Array.from(values);
        const run = (passesOver: boolean) => {
          const seen: Pulse[] = [];
          const memory = noPulses();
          const finder = pulses({ level: 8, ...options }, (p) => seen.push(p), memory);
          for (let i = 0; i < x.length; i++) {
            if (passesOver) i = Math.max(i, finder.quietUntil(x, i, x.length) - 1);
            finder.push(i, x[i]!);
          }
          return { seen, memory };
        };
        expect(run(true)).toEqual(run(false));
      }),
    );
  });

  // One detector that looks at the level alone, one that goes by the noise of all readings, and one beside a figure of them.
  it.each([
    [6, 'blows'],
    [2, 'race'],
    [8, 'ride'],
  ])('are passed over without a trace: family %i', (family, condition) => {
    const { draw, sampleRateHz } = FAMILIES.find((f) => f.family === family)!;
    const world = createWorld(draw(3));
    world.setCondition(condition);
    const rows = Array.from({ length: Math.round(12 * sampleRateHz) }, () => world.step(1 / sampleRateHz));
    const times = Float64Array.from(rows, (_, i) => (i + 1) / sampleRateHz);
    const columns = world.columns.map((_, k) => Float64Array.from(rows, (row) => row[k]!));
    const spec = { ...readoutSpec(familyGadget(family), [], [], sampleRateHz), columns: world.columns };
    const fed = (most: number) => {
      const readout = createWatchedReadout(spec);
      const events: WatchedEvent[] = [];
      for (let from = 0; from < rows.length; from += most) {
        const to = Math.min(rows.length, from + most);
        const piece = columns.map((c) => c.subarray(from, to));
        readout.feed(
          { length: to - from, times: times.subarray(from, to), columns: piece },
          () => undefined,
          (_channel, event) => events.push(event),
        );
      }
      return {
        events,
        figures: spec.channels.map((_, k) => readout.figures(k)),
        memory: spec.channels.map((_, k) => readout.saveWatch(k)),
      };
    };
    const oneByOne = fed(1);
    expect(oneByOne.events.length).toBeGreaterThan(0);
    for (const most of [7, 500, 20_000]) expect(fed(most)).toEqual(oneByOne);
  });
});
