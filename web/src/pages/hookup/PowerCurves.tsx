import { type RuntimeCurve } from '@lucky-needle/core/plan';
import { Plot } from '../../parts/Plot.tsx';
import type { PlotInk } from '../../parts/plotTypes.ts';
import { hoursInWords } from './powerInWords.ts';
import { CHEMISTRY_WORDS } from '@lucky-needle/core/words';

export const DUTIES = [0.02, 0.03, 0.05, 0.07, 0.1, 0.15, 0.2, 0.3, 0.4, 0.5, 0.7, 1];
const INKS: readonly PlotInk[] = ['trace', 'trace2', 'trace3', 'reference', 'check', 'muted'];

/** Runtime over the share of time awake, a line for each battery that carries the peaks. */
export function PowerCurves({
  curves,
  wanted,
  duty,
}: {
  curves: readonly RuntimeCurve[];
  wanted: number | null;
  duty: number;
}) {
  const shown = curves.slice(0, INKS.length);
  const most = Math.max(...shown.flatMap((c) => c.hours));
  const inDays = most > 96;
  const scale = inDays ? 24 : 1;
  return (
    <section className="panel" aria-label="Battery life by time awake">
      <h2>Battery life by time awake</h2>
      <div className="mt-2">
        <Plot
          title="Battery life by time awake"
          height={240}
          x={{ label: 'Time awake', unit: '%', min: 0, max: 100 }}
          y={{ label: 'Battery life', unit: inDays ? 'days' : 'h', min: 0 }}
          series={shown.map((c, i) => ({
            label: c.supply.title,
            x: c.duties.map((d) => 100 * d),
            y: c.hours.map((h) => h / scale),
            ink: INKS[i]!,
            style: i < 3 ? 'line' : 'dashed',
          }))}
          bands={
            wanted === null
              ? []
              : [{ from: wanted / scale, to: Math.max(most, wanted) / scale, axis: 'y', ink: 'tolerance' }]
          }
          needleAt={100 * duty}
        />
      </div>
      <table className="table-xs mt-2 table">
        <tbody>
          {shown.map((c, i) => (
            <tr key={c.supply.id}>
              <td className="pl-0">
                <span
                  className="mr-2 inline-block h-1 w-5 align-middle"
                  style={{ background: inkColor(INKS[i]!) }}
                />
                {c.supply.title} <span className="muted">{CHEMISTRY_WORDS[c.supply.chemistry]}</span>
              </td>
              <td className="num text-right">{hoursInWords(c.hours.at(-1)!)} always awake</td>
              <td className="num text-right">
                {hoursInWords(c.hours[c.duties.indexOf(0.1)]!)} at 10 % awake
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="muted mt-1 text-xs">
        Red line: the current setting{wanted === null ? '' : '; green: long enough for the brief'}.
      </p>
    </section>
  );
}

function inkColor(ink: PlotInk): string {
  const name = {
    trace: 'primary',
    trace2: 'info',
    trace3: 'secondary',
    reference: 'secondary',
    check: 'success',
    muted: 'base-content',
    fit: 'primary',
    needle: 'accent',
    error: 'error',
  }[ink];
  return `var(--color-${name})`;
}
