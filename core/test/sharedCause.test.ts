import { describe, expect, it } from 'vitest';
import {
  compileLine,
  lineUncertainty,
  MOVED_BY,
  readingAtRest,
  waysOff,
  withWayOff,
} from '../src/line/index.ts';
import { LineSpec } from '../src/model/line.ts';
import { Value } from 'typebox/value';
import { bentConstants } from '../src/prove/bentConstants.ts';
import { acPower } from '../src/plan/templates/acPower.ts';

const CONTEXT = { sampleRateHz: 10 };
type Causes = readonly [first?: string, second?: string];

/** Two gains one behind the other, each good to 1 %, or the second dividing what the first makes. */
const twoGains = ([first, second]: Causes, divides = false): LineSpec => ({
  sources: [{ column: 'a', unit: '1' }],
  stages: [
    {
      id: 'one',
      kind: 'gain-offset',
      params: { gain: 4, offset: 0 },
      uncertainty: { gain: 0.04 },
      ...(first && { cause: { gain: first } }),
      off: false,
    },
    {
      id: 'two',
      kind: 'power-law',
      params: { factor: 50, exponent: divides ? -1 : 1, to: 'V' },
      uncertainty: { factor: 0.5 },
      ...(second && { cause: { factor: second } }),
      off: false,
    },
  ],
});
/** Standard uncertainty as a share of the reading, three ways. */
function shares(spec: LineSpec) {
  const line = compileLine(spec, CONTEXT);
  const reading = readingAtRest(line, 3);
  const moved = waysOff(spec, null).map(
    (way) => (readingAtRest(compileLine(withWayOff(spec, way, MOVED_BY), CONTEXT), 3) - reading) / MOVED_BY,
  );
  return {
    firstOrder: lineUncertainty(line, 3, 0).at(-1)!.systematic / reading,
    moved: Math.hypot(...moved) / reading,
    isBent: bentConstants(line, 3, null) !== null,
  };
}

describe('constants of one cause', () => {
  it('add up where they work the same way, and in squares where each has its own', () => {
    for (const causes of [[], ['the reference voltage'], ['a resistor', 'another']] as Causes[]) {
      expect(shares(twoGains(causes)).firstOrder).toBeCloseTo(Math.SQRT2 / 100, 5);
      expect(shares(twoGains(causes)).moved).toBeCloseTo(Math.SQRT2 / 100, 4);
    }
    const together = shares(twoGains(['the reference voltage', 'The reference voltage ']));
    expect(together.firstOrder).toBeCloseTo(2 / 100, 5);
    expect(together.moved).toBeCloseTo(2 / 100, 4);
  });

  it('cancel where one divides by the other, as a ratio to the same reference does', () => {
    const apart = shares(twoGains([], true));
    const together = shares(twoGains(['supply', 'supply'], true));
    expect(apart.firstOrder).toBeCloseTo(Math.SQRT2 / 100, 5);
    expect(together.firstOrder).toBeLessThan(1e-6);
    expect(together.moved).toBeLessThan(1e-6);
    expect(together.isBent).toBe(false);
  });

  it('are one way to be off for volts and amperes of the same converter', () => {
    const { channels } = acPower.make();
    const spec = structuredClone(channels.find((c) => c.id === 'p')!.line);
    const [block] = spec.stages;
    block!.uncertainty = { voltsPerUnit: 2e-4, amperesPerUnit: 3e-5 };
    const ways = () => waysOff(spec, null).length;
    expect(ways()).toBe(2);
    block!.cause = { voltsPerUnit: 'reference', amperesPerUnit: 'reference' };
    expect(ways()).toBe(1);
    expect(Value.Check(LineSpec, spec)).toBe(true);
  });

  it('are nothing to a constant of which nobody said what it is good to', () => {
    const spec = twoGains(['supply', 'supply'], true);
    spec.stages[1]!.uncertainty = {};
    expect(shares(spec).firstOrder).toBeCloseTo(1 / 100, 5);
  });
});
