import { useMemo, useState } from 'react';
import { lampsOf } from '@lucky-needle/core/calibrate';
import { interpolant, type InterpolantKind } from '@lucky-needle/core/numerics';
import { useBench } from '../../../app/useBench.ts';
import { Plot } from '../../../parts/Plot.tsx';
import type { PlotInk } from '../../../parts/plotTypes.ts';
import { useLampLight } from './useLampLight.ts';

/** The rules that are set side by side. */
const RULES: readonly (readonly [InterpolantKind, string])[] = [
  ['linear', 'piecewise linear'],
  ['pchip', 'shape-preserving (PCHIP)'],
  ['natural-cubic', 'natural cubic'],
  ['lagrange', 'single polynomial'],
];
const INKS: readonly PlotInk[] = ['muted', 'trace', 'trace2', 'trace3'];
const STEPS = 200;

/** The curve between a few lamps by several rules side by side: where they part, nothing was measured. */
export function SpectrumCard() {
  const { gadget } = useBench();
  const { data: light } = useLampLight(gadget.id);
  const [frozen, setFrozen] = useState<readonly (readonly [number, number])[] | null>(null);
  const live = lampsOf(gadget.channels)
    .flatMap((c): [number, number][] => {
      const nm = Number(/(\d{3,4})\s*nm/.exec(c.name)?.[1]);
      const a = light?.lamps.find((l) => l.channelId === c.id)?.absorbance?.value ?? null;
      return Number.isFinite(nm) && a !== null ? [[nm, a]] : [];
    })
    .sort((a, b) => a[0] - b[0]);
  const points = frozen ?? live;
  const key = JSON.stringify(points);
  const drawn = useMemo(() => {
    if (points.length < 3) return null;
    const [xs, ys] = [points.map((q) => q[0]), points.map((q) => q[1])];
    const at = Array.from({ length: STEPS + 1 }, (_, i) => xs[0]! + ((xs.at(-1)! - xs[0]!) * i) / STEPS);
    const curves = RULES.map(([kind, words]) => {
      const f = interpolant(kind, xs, ys);
      const y = at.map((x) => f.at(x));
      const top = y.reduce((best, v, i) => (v > y[best]! ? i : best), 0);
      return { words, y, peakNm: at[top]!, height: y[top]! };
    });
    return { xs, ys, at, curves };
    // The key stands for the points.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  if (!drawn) return null;
  const heights = drawn.curves.map((c) => c.height);
  const spread = Math.max(...heights) - Math.min(...heights);
  return (
    <section className="panel grid gap-2" aria-label="Spectrum">
      <header className="flex flex-wrap items-center gap-2">
        <h2 className="section-title grow">Interpolation between lamps</h2>
        <button type="button" className="btn btn-sm" onClick={() => setFrozen(frozen ? null : live)}>
          {frozen ? 'Resume' : 'Freeze'}
        </button>
      </header>
      <Plot
        title="Absorbance between the lamps, four interpolation methods"
        height={230}
        x={{ label: 'Wavelength', unit: 'nm' }}
        y={{ label: 'Absorbance', unit: '' }}
        series={[
          ...drawn.curves.map((c, i) => ({
            label: c.words,
            x: drawn.at,
            y: c.y,
            ink: INKS[i % INKS.length]!,
            style: i === 0 ? ('dashed' as const) : ('line' as const),
          })),
          { label: 'measured', x: drawn.xs, y: drawn.ys, ink: 'reference', style: 'diamonds' },
        ]}
      />
      <table className="table-sm table">
        <thead>
          <tr>
            <th className="pl-0">Interpolation method</th>
            <th className="text-right">Peak wavelength</th>
            <th className="text-right">Height</th>
          </tr>
        </thead>
        <tbody className="num">
          {drawn.curves.map((c) => (
            <tr key={c.words}>
              <th scope="row" className="pl-0 font-sans text-base-content">
                {c.words}
              </th>
              <td className="text-right">{c.peakNm.toFixed(0)} nm</td>
              <td className="text-right">{c.height.toFixed(3)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="muted text-sm">
        The methods differ by up to <span className="num">{spread.toFixed(3)}</span> at the peak; that part is
        interpolated, not measured. A lamp closer to the peak helps more than another method.
      </p>
    </section>
  );
}
