import type { Channel } from '@lucky-needle/core/model';
import { FAMILIES, type WorldTruth } from '@lucky-needle/core/simulate';

/** What a simulated world of the mill hides. */
export const truthOf = <K extends WorldTruth['kind']>(family: number) =>
  FAMILIES.find((f) => f.family === family)!.draw(640 + family) as Extract<WorldTruth, { kind: K }>;

/** A vane trued up by what its world hides, so that north is north. */
export function truedVane(vane: Channel, truth: Extract<WorldTruth, { kind: 'wind-vane' }>): Channel {
  const stages = vane.line.stages.map((s) =>
    s.kind === 'vector-correction'
      ? { ...s, params: { ...s.params, offset: [...truth.hard], matrix: inverse(truth.soft) } }
      : s.kind === 'heading'
        ? { ...s, params: { ...s.params, declinationDeg: truth.declinationDeg } }
        : s,
  );
  return { ...vane, line: { ...vane.line, stages } };
}

/** A heated element trued up by what its world hides, so that its own gas reads as it is. */
export function truedElement(channel: Channel, truth: Extract<WorldTruth, { kind: 'gas-watch' }>): Channel {
  const element = truth.elements.find((e) => e.column === channel.line.sources[0]!.column)!;
  const known: Readonly<Record<string, object>> = {
    adc: { bits: truth.adcBits, referenceV: truth.referenceV },
    'load-resistor': { loadOhm: element.loadOhm, supplyV: truth.supplyV },
    'ratio-to-baseline': { baseline: element.cleanOhm },
    'power-law': { factor: element.backgroundPpm, exponent: -1 / element.steepness },
  };
  const stages = channel.line.stages.map((s) => ({ ...s, params: { ...s.params, ...known[s.kind] } }));
  return { ...channel, line: { ...channel.line, stages } };
}

/** Of a matrix of three by three, row by row. */
function inverse(m: readonly number[]): number[] {
  const [a, b, c, d, e, f, g, h, i] = m as [
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
  ];
  const det = a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g);
  return [
    e * i - f * h,
    c * h - b * i,
    b * f - c * e,
    f * g - d * i,
    a * i - c * g,
    c * d - a * f,
    d * h - e * g,
    b * g - a * h,
    a * e - b * d,
  ].map((v) => v / det);
}
