import { useMemo } from 'react';
import { LineError } from '@lucky-needle/core/line';
import { canExpectReadings, expectedReadings } from '@lucky-needle/core/plan';
import { printNumber, printSignificant } from '@lucky-needle/core/units';
import { useBench, type ChannelContext } from '../../app/useBench.ts';
import { useLive } from '../../live/useLive.ts';
import { EmptyState } from '../../parts/EmptyState.tsx';

/** What to expect at conditions one can make at home, as bought: a wrong figure tells of a slip before any calibration. */
export function ExpectedTable({ channel }: { channel: ChannelContext }) {
  const { gadget } = useBench();
  const live = useLive();
  const { brief, place, sampleRateHz } = gadget;
  const rows = useMemo(() => {
    if (!brief || !canExpectReadings(channel.base)) return null;
    try {
      return expectedReadings(channel.base, brief, place, sampleRateHz);
    } catch (error) {
      if (error instanceof LineError) return null;
      throw error;
    }
  }, [brief, place, sampleRateHz, channel.base]);
  if (!rows) {
    return (
      <EmptyState title="No expected readings yet">
        They need a brief and a line from counts to a temperature, every stage of which can be walked
        backwards.
      </EmptyState>
    );
  }
  const now = live.columns.get(channel.base.sources[0]!.column)?.at(-1);
  const nearest =
    now === undefined ? -1 : rows.findIndex((r) => Math.abs(r.counts - now) <= 3 * r.countsTolerance);
  return (
    <section className="panel">
      <h2>Expect this at first power-up</h2>
      <p className="muted mb-2 text-sm">
        From the line walked backwards, with the constants as marked. A count far off tells of a wiring or
        unit slip.
      </p>
      <div className="overflow-x-auto">
        <table className="table-sm table">
          <thead>
            <tr>
              <th className="pl-0">Condition</th>
              <th className="text-right">Reading, °C</th>
              <th className="text-right">Resistance</th>
              <th className="text-right">At the pin, V</th>
              <th className="text-right">Counts</th>
            </tr>
          </thead>
          <tbody className="num">
            {rows.map((row, i) => (
              <tr key={row.condition} className={i === nearest ? 'bg-accent/10' : ''}>
                <td className="pl-0 font-sans">{row.condition}</td>
                <td className="text-right">{printNumber(row.reading, 1)}</td>
                <td className="text-right">{row.ohm === null ? '–' : printOhm(row.ohm)}</td>
                <td className="text-right">{row.volt === null ? '–' : printNumber(row.volt, 3)}</td>
                <td className="text-right">
                  <span className="font-semibold">{printNumber(row.counts, 0)}</span>
                  <span className="muted"> ±{printNumber(Math.max(1, row.countsTolerance), 0)}</span>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="mt-3 text-sm">
        {now === undefined ? (
          <span className="muted">No live readings to compare with.</span>
        ) : (
          <>
            Live now: <span className="num font-semibold text-accent">{printNumber(now, 0)} counts</span>
            {nearest >= 0 ? `, close to "${rows[nearest]!.condition}".` : ', between the conditions above.'}
          </>
        )}
      </p>
    </section>
  );
}

function printOhm(ohm: number): string {
  return ohm >= 1000 ? `${printSignificant(ohm / 1000, 4)} kΩ` : `${printSignificant(ohm, 4)} Ω`;
}
