import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { OverviewBuilder, ReadingSummary } from '../src/reading/index.ts';

describe('an overview of readings', () => {
  it('is the same to the bit, however readings come: one by one, in blocks, with bad ones, pauses and gaps', () => {
    const value = fc.oneof(
      { weight: 9, arbitrary: fc.double({ min: -50, max: 50, noNaN: true }) },
      { weight: 1, arbitrary: fc.constantFrom(Number.NaN, 0, -0) },
    );
    const step = fc.oneof(fc.constant(0.1), fc.constant(9));
    const row = fc.record({ value, step, isGap: fc.constantFrom(false, false, false, true) });
    const rows = fc.array(row, { maxLength: 200 });
    fc.assert(
      fc.property(
        rows,
        fc.integer({ min: 1, max: 90 }),
        fc.constantFrom(Infinity, 4),
        (all, most, longestS) => {
          const [singly, inBlocks] = [0, 1].map(() => new OverviewBuilder(undefined, longestS)) as [
            OverviewBuilder,
            OverviewBuilder,
          ];
          let block: { times: number[]; values: number[] } = { times: [], values: [] };
          const flush = () => {
            const { times, values } = block;
            inBlocks.addAll(Float64Array.from(times), Float64Array.from(values), times.length);
            block = { times: [], values: [] };
          };
          let t = 0;
          for (const { value: x, step: by, isGap } of all) {
            t += by;
            if (isGap) {
              flush();
              for (const builder of [singly, inBlocks]) builder.gap({ fromS: t - by, toS: t });
            }
            singly.add(t, x);
            block.times.push(t);
            block.values.push(x);
            if (block.times.length >= most) flush();
          }
          flush();
          expect([inBlocks.pack(), inBlocks.newest]).toEqual([singly.pack(), singly.newest]);
        },
      ),
    );
  });

  it('comes to what its readings come to one by one', () => {
    const value = fc.oneof(
      { weight: 30, arbitrary: fc.double({ min: -50, max: 50, noNaN: true }) },
      { weight: 1, arbitrary: fc.constant(Number.NaN) },
    );
    fc.assert(
      fc.property(fc.array(value, { maxLength: 300 }), (all) => {
        const builder = new OverviewBuilder();
        builder.addAll(
          Float64Array.from(all, (_, i) => i / 8),
          Float64Array.from(all),
          all.length,
        );
        const [packed, singly] = [new ReadingSummary(), new ReadingSummary()];
        packed.addOverview(builder.pack());
        all.forEach((x, i) => singly.add(i / 8, x, (i - 1) / 8, all[i - 1] ?? Number.NaN));
        const { area, ...rest } = singly;
        expect(packed).toMatchObject(rest);
        expect(packed.area).toBeCloseTo(area, 8);
      }),
    );
  });
});
