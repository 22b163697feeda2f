import { Type } from 'typebox';
import { vertex } from '../../detect/vertex.ts';
import { numbers } from '../../stage/params.ts';
import { figure, none, type FigureKind } from '../kind.ts';

/**
 * A band is no parabola, and one of its sides is wider: its peak lies this share of the gap between lamps off, as a standard
 * uncertainty.
 */
const SHAPE = 1 / 7;

/** Where a spectrum of a few lamps is highest, by a curve that keeps the shape between them. */
export const peakWavelength: FigureKind<{ wavelengths: number[] }> = {
  kind: 'peak-wavelength',
  title: 'Spectral peak',
  summary:
    'Wavelength of the highest channel (one lamp per channel), from a parabola through the three highest',
  params: Type.Object({ wavelengths: numbers('Wavelengths, this channel’s first', 3, 16, 'nm') }),
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
      throw new RangeError(
        `Two lamps have the same wavelength: ${wavelengths.join(', ')} nm. Correct one of them.`,
      );
    return {
      memory: m,
      reading(t, x, others) {
        m.readings = [x, ...others];
        m.atS = t;
      },
      now() {
        const values = order.map((i) => m.readings[i] ?? Number.NaN);
        if (!values.every(Number.isFinite)) return none('Every lamp needs a reading.');
        const top = values.indexOf(Math.max(...values));
        const lamps = `${nm.length} lamps from ${nm[0]} to ${nm.at(-1)} nm`;
        if (top === 0 || top === nm.length - 1)
          return figure(
            nm[top]!,
            Number.NaN,
            m.atS,
            `${lamps}; the highest is at the end of the range, so the peak may be outside it.`,
          );
        const sample = (i: number) => ({ t: nm[i]!, x: values[i]! });
        const peak = vertex(sample(top - 1), sample(top), sample(top + 1)).timeS;
        const gap = (nm[top + 1]! - nm[top - 1]!) / 2;
        return figure(
          Math.min(nm[top + 1]!, Math.max(nm[top - 1]!, peak)),
          SHAPE * gap,
          m.atS,
          `${lamps}; parabola through the three highest, which may differ from the true shape of the band.`,
        );
      },
    };
  },
};
