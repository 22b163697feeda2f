import { describe, expect, it } from 'vitest';
import { compileLine, readingAtRest, waysOff, withWayOff, type CompiledLine } from '../src/line/index.ts';
import { movedReading } from '../src/line/movedReading.ts';
import { seededRandom } from '../src/numerics/index.ts';
import { wholeLine, TEMPLATES } from '../src/plan/index.ts';
import type { LineSpec } from '../src/model/line.ts';

const CONTEXT = { sampleRateHz: 50 };

/** What the line compiled anew reads, or NaN where it cannot be. */
function compiledAnew(line: CompiledLine, raw: number[], times: readonly number[]): number {
  const ways = waysOff(line.spec, null);
  try {
    const moved = ways.reduce((s, way, k) => (times[k] === 0 ? s : withWayOff(s, way, times[k]!)), line.spec);
    return readingAtRest(compileLine(moved, CONTEXT), raw);
  } catch (error) {
    if (error instanceof RangeError) return Number.NaN;
    throw error;
  }
}

/** Each number of each stage is good to a twentieth of itself. */
const doubted = (spec: LineSpec): LineSpec => ({
  ...spec,
  stages: spec.stages.map((stage) => ({
    ...stage,
    uncertainty: Object.fromEntries(
      Object.entries(stage.params).flatMap(([name, value]): [string, number][] =>
        typeof value === 'number'
          ? [[name, Math.abs(value) / 20]]
          : Array.isArray(value)
            ? value.map((v, i) => [`${name}.${i}`, Math.abs(v) / 20])
            : [],
      ),
    ),
  })),
});

describe('a reading with its constants off', () => {
  it('is that of the line compiled anew, to the bit, in every template', () => {
    const random = seededRandom(5);
    let numbers = 0;
    for (const template of TEMPLATES) {
      const gadget = { ...template.make(), id: 'g' } as unknown as Parameters<typeof wholeLine>[0];
      for (const channel of gadget.channels) {
        const line = compileLine(doubted(wholeLine(gadget, channel, [])), CONTEXT);
        const ways = waysOff(line.spec, null);
        for (let k = 0; k < 30; k++) {
          const raw = line.sources.map(() => Math.round(3000 * random.uniform()));
          const reading = movedReading(line, raw, ways);
          // Far off now and then, so that some constants leave what their stages allow; some not at all.
          const times = ways.map(() =>
            random.uniform() < 0.3 ? 0 : (k % 3 === 0 ? 30 : 1) * random.normal(),
          );
          const [ours, theirs] = [reading(times), compiledAnew(line, raw, times)];
          expect([template.id, channel.id, times, ours]).toEqual([template.id, channel.id, times, theirs]);
          if (Number.isFinite(ours)) numbers++;
        }
      }
    }
    expect(numbers).toBeGreaterThan(300);
  });

  it('is the reading as it is where nothing is off, and NaN beyond what a stage allows', () => {
    const spec = {
      sources: [{ column: 'a', unit: '1' }],
      stages: [
        {
          id: 'd',
          kind: 'divider',
          params: { seriesOhm: 10_000, side: 'top' },
          uncertainty: { seriesOhm: 500 },
          off: false,
        },
      ],
    } as unknown as LineSpec;
    const line = compileLine(spec, CONTEXT);
    const reading = movedReading(line, 0.25, waysOff(spec, null));
    expect(reading([0])).toBe(readingAtRest(line, 0.25));
    expect(reading([2]) / reading([0])).toBeCloseTo(1.1, 12);
    expect(reading([-21])).toBeNaN();
  });
});
