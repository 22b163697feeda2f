import type { PlotAxis, PlotSeries } from './plotTypes.ts';
import { placeText } from './tickText.ts';

const MOST = 60;

/** The numbers behind a plot, for readers who do not see it; long curves are thinned evenly and say so. */
export function PlotTable({ series, x, y }: { series: readonly PlotSeries[]; x: PlotAxis; y: PlotAxis }) {
  const shown = series.filter((s) => s.style !== 'whiskers');
  return (
    <div className="max-h-80 overflow-auto">
      {shown.map((s) => {
        const stride = Math.max(1, Math.ceil(s.x.length / MOST));
        const rows = Array.from({ length: Math.ceil(s.x.length / stride) }, (_, i) => i * stride);
        return (
          <table key={s.label} className="table-xs mb-3 table">
            <caption className="text-left text-xs font-semibold">
              {s.label}
              {stride > 1 && (
                <span className="muted font-normal">
                  {' '}
                  1 of every {stride} points ({s.x.length} in total)
                </span>
              )}
            </caption>
            <thead>
              <tr>
                <th>
                  {x.label} {x.unit}
                </th>
                <th>
                  {y.label} {y.unit}
                </th>
              </tr>
            </thead>
            <tbody className="num">
              {rows.map((i) => (
                <tr key={i}>
                  <td>{placeText({ ...x, unit: '' }, s.x[i]!, 6)}</td>
                  <td>{Number.isNaN(s.y[i]!) ? '–' : Number(s.y[i]!.toPrecision(6))}</td>
                </tr>
              ))}
            </tbody>
          </table>
        );
      })}
    </div>
  );
}
