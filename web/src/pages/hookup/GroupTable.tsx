import { useMemo, useState } from 'react';
import { judgeRow, type ExpectedGroup, type ExpectedRow } from '@lucky-needle/core/plan';
import type { Channel, Gadget } from '@lucky-needle/core/model';
import { printNumber, printSignificant, UNITS, decimalsFor, type UnitId } from '@lucky-needle/core/units';
import { useLive } from '../../live/useLive.ts';
import { meanOf } from './newest.ts';
import { OpenSlip } from './OpenSlip.tsx';

export function GroupTable({ group, gadget }: { group: ExpectedGroup; gadget: Gadget }) {
  const live = useLive();
  const [open, setOpen] = useState<string | null>(null);
  const [judged, setJudged] = useState<Readonly<Record<string, ReturnType<typeof judgeRow>>>>({});
  const rows = group.rows[0]!;
  const name = group.channels.map((c) => c.name.split(',')[0]).join(', ');
  const readings = useReadings(group.channels);
  // Channels that come from the same raw columns are judged once.
  const columnsOf = (k: number) =>
    group.rows[k]![0]?.raw.map((c) => c.column).join() || group.channels[k]!.id;
  const distinct = [...group.channels.keys()].filter(
    (k) => ![...Array(k).keys()].some((j) => columnsOf(j) === columnsOf(k)),
  );
  const hasOhm = rows.some((r) => r.ohm !== null);
  const hasVolt = rows.some((r) => r.volt !== null);
  const up = live.times.length > 0;
  const newest = (column: string) => meanOf(live.columns.get(column));
  const judge = (i: number, c: number) => {
    const row = group.rows[c]![i]!;
    const told = judgeRow(
      row,
      row.raw.map((q) => newest(q.column)),
      readings[c]!,
    );
    const key = `${i}/${c}`;
    setJudged({ ...judged, [key]: told });
    setOpen(told.state === 'wrong' ? key : open === key ? null : open);
  };
  return (
    <section className="panel" aria-label={`Expected readings of ${name}`}>
      <h2>{name}</h2>
      {rows.length === 0 ? (
        <p className="muted mt-1 text-sm">Calculated from the other channels; correct if they are.</p>
      ) : (
        <div className="mt-1 overflow-x-auto">
          <table className="table-sm table">
            <thead>
              <tr>
                <th className="pl-0">Condition</th>
                <th className="text-right">Expected reading</th>
                {hasOhm && <th className="text-right">Resistance</th>}
                {hasVolt && <th className="text-right">Pin voltage</th>}
                <th className="text-right">Raw value</th>
                <th className="no-print">Check live value</th>
                <th className="print-only">Measured</th>
              </tr>
            </thead>
            <tbody className="num">
              {rows.map((row, i) => (
                <tr key={row.condition}>
                  <th scope="row" className="pl-0 font-sans font-normal text-base-content">
                    {row.condition}
                  </th>
                  <td className="text-right whitespace-nowrap">
                    {readingText(row)} {UNITS[row.unit].symbol}
                  </td>
                  {hasOhm && <td className="text-right">{row.ohm === null ? '–' : ohmText(row.ohm)}</td>}
                  {hasVolt && (
                    <td className="text-right">
                      {row.volt === null ? '–' : `${printNumber(row.volt, 3)} V`}
                    </td>
                  )}
                  <td className="text-right">
                    {row.raw.length === 0 ? (
                      <span className="muted font-sans text-xs">varies; see the reading</span>
                    ) : (
                      row.raw.map((c) => (
                        <span key={c.column} className="block whitespace-nowrap">
                          {row.raw.length > 1 && <span className="muted">{c.column} </span>}
                          <span className="font-semibold">{printNumber(c.value, rawDecimals(c.unit))}</span>
                          <span className="muted"> ±{rawTolerance(c.tolerance, c.unit)}</span>
                        </span>
                      ))
                    )}
                  </td>
                  <td className="no-print">
                    <div className="flex flex-wrap gap-x-3 gap-y-1">
                      {distinct.map((k) => (
                        <NowCell
                          key={group.channels[k]!.id}
                          row={group.rows[k]![i]!}
                          up={up}
                          values={group.rows[k]![i]!.raw.map((q) => newest(q.column))}
                          reading={readings[k]!}
                          judged={judged[`${i}/${k}`]}
                          name={distinct.length > 1 ? group.channels[k]!.name.split(',')[0]! : ''}
                          label={`${group.channels[k]!.name}, ${row.condition}`}
                          onJudge={() => judge(i, k)}
                          onSlip={() => setOpen(`${i}/${k}`)}
                        />
                      ))}
                    </div>
                  </td>
                  <td className="print-only">______</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {open !== null && (
        <OpenSlip
          key={open}
          at={open}
          group={group}
          gadget={gadget}
          readings={readings}
          onClose={() => setOpen(null)}
        />
      )}
    </section>
  );
}

interface NowProps {
  readonly row: ExpectedRow;
  readonly up: boolean;
  readonly values: readonly number[];
  readonly reading: number;
  readonly judged: ReturnType<typeof judgeRow> | undefined;
  /** Short name of the channel where several stand together. */
  readonly name: string;
  readonly label: string;
  onJudge(): void;
  onSlip(): void;
}

/** The live value of a row: pressed when the condition holds, it turns right or wrong. */
function NowCell({ row, up, values, reading, judged, name, label, onJudge, onSlip }: NowProps) {
  if (!up) return name === '' ? <span className="muted font-sans text-xs">no link</span> : null;
  const text =
    row.raw.length > 0
      ? row.raw.map((c, i) => printNumber(values[i]!, rawDecimals(c.unit))).join(' ')
      : printNumber(reading, 1);
  return (
    <span className="inline-flex items-center gap-1.5 whitespace-nowrap">
      {name && <span className="muted font-sans text-xs">{name}</span>}
      <button
        type="button"
        className="btn btn-outline btn-xs num text-accent"
        aria-label={`Check ${label} now`}
        title="Check the live value against this row"
        onClick={onJudge}
      >
        {text}
      </button>
      {judged?.state === 'right' && (
        <span className="font-sans text-xs font-semibold text-success">✓ correct</span>
      )}
      {judged?.state === 'no reading' && <span className="muted font-sans text-xs">no reading</span>}
      {judged?.state === 'wrong' && (
        <button
          type="button"
          className="font-sans text-xs font-semibold text-error underline"
          onClick={onSlip}
          title={judged.sentence}
        >
          ✕ wrong
        </button>
      )}
    </span>
  );
}

/** The newest shown reading of each channel, as bought. */
function useReadings(channels: readonly Channel[]): number[] {
  const { readings } = useLive();
  return useMemo(
    () =>
      channels.map(({ id }) => {
        const stages = readings.get(`${id}:bought`) ?? readings.get(id);
        return meanOf(stages?.at(-1)?.values);
      }),
    [channels, readings],
  );
}

const rawDecimals = (unit: UnitId) => (unit === 'count' || unit === 'us' ? 0 : 2);
const rawTolerance = (tolerance: number, unit: UnitId) =>
  unit === 'count' || unit === 'us' ? printNumber(Math.max(1, tolerance), 0) : printSignificant(tolerance, 2);
const readingText = (row: ExpectedRow) =>
  row.reading.map((v) => printNumber(v, Math.min(2, decimalsFor(row.readingTolerance)))).join(' ');

function ohmText(ohm: number): string {
  return ohm >= 1000 ? `${printSignificant(ohm / 1000, 4)} kΩ` : `${printSignificant(ohm, 4)} Ω`;
}
