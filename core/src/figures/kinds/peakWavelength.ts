import { Type } from 'typebox';
import { interpolant } from '../../numerics/index.ts';
import { numbers } from '../../stage/params.ts';
import { figure, none, type FigureKind } from '../kind.ts';

/** Where a spectrum of a few lamps is highest, by a curve that keeps the shape between them. */
export const peakWavelength: FigureKind<{ wavelengths: number[] }> = {
  kind: 'peak-wavelength',
  title: 'Peak of a spectrum',
  summary:
    'Wavelength at which the channels, one lamp each, are highest, by a shape-keeping curve between them',
  params: Type.Object({ wavelengths: numbers('Wavelengths, this channel first', 3, 16, 'nm') }),
  defaults: { wavelengths: [470, 525, 590] },
  roles: {},
  others: 'several',
  levels: [],
  unit: ({ wavelengths }, _input, others) => (wavelengths.length === others.length + 1 ? 'nm' : null),
  start({ wavelengths }) {
    const m = { readings: [] as number[], atS: Number.NaN };
    const order = wavelengths.map((_, i) => i).sort((a, b) => wavelengths[a]! - wavelengths[b]!);
    const nm = order.map((i) => wavelengths[i]!);
    if (new Set(nm).size < nm.length)
      throw new RangeError(`Two lamps have the same wavelength: ${wavelengths.join(', ')} nm. Correct one.`);
    return {
      memory: m,
      reading(t, x, others) {
        m.readings = [x, ...others];
        m.atS = t;
      },
      now() {
        const values = order.map((i) => m.readings[i] ?? Number.NaN);
        if (!values.every(Number.isFinite)) return none('Every lamp must read.');
        const curve = interpolant('pchip', nm, values);
        let best = nm[0]!;
        for (let at = nm[0]!; at <= nm.at(-1)!; at += 0.5) if (curve.at(at) > curve.at(best)) best = at;
        const gaps = nm.slice(1).map((v, i) => v - nm[i]!);
        const at = nm.findIndex((v) => v >= best);
        // Between lamps the curve is guessed: a third of the gap that it lies in.
        const gap = Math.max(gaps[Math.max(0, at - 1)] ?? 0, gaps[Math.min(at, gaps.length - 1)] ?? 0);
        return figure(
          best,
          gap / 3 / 2,
          m.atS,
          `Between ${nm.length} lamps from ${nm[0]} to ${nm.at(-1)} nm; guessed between two of them.`,
        );
      },
    };
  },
};
