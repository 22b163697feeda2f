import type { SeenEvent, WatchSpec } from '@lucky-needle/core/model';
import { printNumber, printSignificant, UNITS, type UnitId } from '@lucky-needle/core/units';

interface Props {
  readonly watches: readonly WatchSpec[];
  readonly events: readonly SeenEvent[];
  readonly unit: UnitId;
  /** What the moments are told from: now, or the start of a run. */
  readonly zeroS: number;
  readonly isLive: boolean;
}

const MOST = 5;

/** The newest events, one a row: when, how large, how long, and why one does not count. */
export function NewestEvents({ watches, events, unit, zeroS, isLive }: Props) {
  const newest = events
    .filter((e) => e.what === 'event')
    .slice(-MOST)
    .reverse();
  if (newest.length === 0) return null;
  return (
    <div className="overflow-x-auto">
      <table className="table table-xs">
        <caption className="muted pb-1 text-left text-xs">Latest events</caption>
        <tbody>
          {newest.map((e, i) => {
            const watch = watches.find((w) => w.id === e.watchId);
            const lengthS = e.endS - e.timeS;
            return (
              <tr key={i} className={e.counted ? '' : 'muted'}>
                <td className="num whitespace-nowrap">
                  {isLive
                    ? `${printNumber(zeroS - e.timeS, 1)} s ago`
                    : `at ${printNumber(e.timeS - zeroS, 2)} s`}
                </td>
                <td>{watch?.name ?? e.watchId}</td>
                <td className="num whitespace-nowrap">
                  {e.value === null
                    ? ''
                    : `${printSignificant(e.value, 3)} ${watch?.kind === 'bout' ? 'beats' : UNITS[unit].symbol}`}
                </td>
                <td className="num whitespace-nowrap">
                  {lengthS > 0 ? `${printSignificant(lengthS, 3)} s long` : ''}
                </td>
                <td>{e.counted ? 'valid' : `ignored: ${e.why}`}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}
