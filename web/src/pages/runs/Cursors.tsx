import { printNominal, printNumber, UNITS } from '@lucky-needle/core/units';
import type { Converted } from './useConverted.ts';
import { readBetween } from './valueAt.ts';

interface Props {
  readonly converted: Converted;
  /** Moments of both cursors in the plot's unit, as typed. */
  readonly at: readonly [string, string];
  readonly unit: 's' | 'min';
  readonly startS: number;
  onChange(at: readonly [string, string]): void;
}

/** A moment as typed, in the plot's unit; NaN for none. */
export const momentOf = (text: string): number =>
  text.trim() === '' ? Number.NaN : Number(text.trim().replace(',', '.'));

/** What every channel reads at two moments, how far it moved, and its mean between them. */
export function Cursors({ converted, at, unit, startS, onChange }: Props) {
  const scale = unit === 'min' ? 60 : 1;
  const [a, b] = at.map((text) => startS + scale * momentOf(text)) as [number, number];
  const ready = Number.isFinite(a) && Number.isFinite(b);
  const field = (which: 0 | 1) => (
    <label className="flex items-center gap-2">
      <span className="muted">{which === 0 ? 'Between A' : 'and B'}</span>
      <input
        className="input input-sm num w-24"
        inputMode="decimal"
        value={at[which]}
        onChange={(e) => onChange(which === 0 ? [e.target.value, at[1]] : [at[0], e.target.value])}
      />
      <span className="muted">{unit}</span>
    </label>
  );
  return (
    <div className="grid gap-2 py-2 text-sm">
      <div className="flex flex-wrap items-center gap-3">
        {field(0)}
        {field(1)}
        {ready && <span className="num muted">{printNominal(Math.abs(b - a), 4)} s apart</span>}
      </div>
      {ready && (
        <div className="overflow-x-auto">
          <table className="table-sm table" aria-label="Between the cursors">
            <thead>
              <tr>
                <th className="pl-0">Channel</th>
                <th className="text-right">At A</th>
                <th className="text-right">At B</th>
                <th className="text-right">B less A</th>
                <th className="text-right">Mean between</th>
              </tr>
            </thead>
            <tbody className="num">
              {converted.map(({ name, unit: own, reading }) => {
                const found = readBetween(reading, a, b);
                const decimals = Math.abs(reading.high - reading.low) < 1 ? 4 : 2;
                const cell = (v: number, plus = false) => (
                  <td className="text-right whitespace-nowrap">
                    {Number.isFinite(v) ? `${printNumber(v, decimals, plus)} ${UNITS[own].symbol}` : '–'}
                  </td>
                );
                return (
                  <tr key={name}>
                    <th scope="row" className="pl-0 font-sans text-base-content">
                      {name}
                    </th>
                    {cell(found.a)}
                    {cell(found.b)}
                    {cell(found.b - found.a, true)}
                    {cell(found.mean)}
                  </tr>
                );
              })}
            </tbody>
          </table>
        </div>
      )}
    </div>
  );
}
