import { useMemo } from 'react';
import { Link } from 'react-router';
import type { BetweenBody, Recording } from '@lucky-needle/core/model';
import { briefFor, toleranceIn } from '@lucky-needle/core/plan';
import { printNominal, printNumber, readingDecimals, UNITS } from '@lucky-needle/core/units';
import { readBetween } from '../../api/readings.ts';
import { lookLine } from '../../app/lookLine.ts';
import { useAsked } from '../../app/useAsked.ts';
import { useBench } from '../../app/useBench.ts';
import { useShelf } from '../../app/useShelf.ts';
import { slipHref } from '../../parts/slipHref.ts';
import type { Converted } from './useConverted.ts';

interface Props {
  readonly recording: Recording;
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

/** Half of the last digit that a run's length is told with. */
const SHOWN = 0.005;

/** A moment that is beyond an end of the run by less than its length is told with is that end. */
export const momentIn = (moment: number, lengthS: number, within: number): number =>
  moment > lengthS && moment <= lengthS + within ? lengthS : moment < 0 && moment >= -within ? 0 : moment;

interface Question {
  readonly recordingId: string;
  readonly body: BetweenBody;
}
const ask = ({ recordingId, body }: Question, signal: AbortSignal) => readBetween(recordingId, body, signal);

/** What every channel reads at two moments, how far it moved, and its mean between them, of all readings. */
export function Cursors({ recording, converted, at, unit, startS, onChange }: Props) {
  const bench = useBench();
  const shelf = useShelf();
  const scale = unit === 'min' ? 60 : 1;
  const lengthS = (recording.lastTimeS ?? 0) - startS;
  const [a, b] = at.map((text) => startS + momentIn(scale * momentOf(text), lengthS, SHOWN * scale)) as [
    number,
    number,
  ];
  const outside = [a, b].filter((t) => Number.isFinite(t) && (t < startS || t > startS + lengthS));
  const ready = Number.isFinite(a) && Number.isFinite(b) && outside.length === 0;
  const question = useMemo<Question | null>(
    () =>
      ready
        ? {
            recordingId: recording.id,
            body: {
              lines: bench.gadget.channels
                .filter((c) => converted.some((own) => own.id === c.id))
                .map((c) => lookLine(bench, c, shelf, recording)),
              aS: a,
              bS: b,
            },
          }
        : null,
    [ready, recording, bench, converted, shelf, a, b],
  );
  const { answer, error } = useAsked(question, ask);
  const field = (which: 0 | 1) => (
    <label className="flex items-center gap-2">
      <span className="muted">{which === 0 ? 'Cursor A' : 'Cursor B'}</span>
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
      {outside.length > 0 && (
        <p role="alert" className="text-warning">
          The run is {printNumber(lengthS / scale, 2)} {unit} long:{' '}
          {printNumber((outside[0]! - startS) / scale, 2)} {unit} is outside it. Enter times from 0 to{' '}
          {printNumber(lengthS / scale, 2)} {unit}.
        </p>
      )}
      {error && (
        <p role="alert" className="text-error">
          {error}
        </p>
      )}
      {ready && !error && (
        <div className="overflow-x-auto">
          <table className="table-sm table" aria-label="Values at the cursors" aria-busy={answer === null}>
            <thead>
              <tr>
                <th className="pl-0">Channel</th>
                <th className="text-right">At A</th>
                <th className="text-right">At B</th>
                <th className="text-right">B − A</th>
                <th className="text-right">Mean from A to B</th>
                <th>
                  <span className="sr-only">Find a mistake</span>
                </th>
              </tr>
            </thead>
            <tbody className="num">
              {converted.map(({ id, name, unit: own }) => {
                const found = answer?.readings.find((r) => r.id === id);
                const channel = bench.gadget.channels.find((c) => c.id === id);
                const tolerance = channel ? toleranceIn(briefFor(bench.gadget, channel), own) : null;
                const decimals = readingDecimals(null, tolerance);
                const cell = (v: number | null, plus = false) => (
                  <td className="text-right whitespace-nowrap">
                    {v === null ? '–' : `${printNumber(v, decimals, plus)} ${UNITS[own].symbol}`}
                  </td>
                );
                const { a: atA = null, b: atB = null, mean = null } = found ?? {};
                return (
                  <tr key={id}>
                    <th scope="row" className="pl-0 font-sans text-base-content">
                      {name}
                    </th>
                    {cell(atA)}
                    {cell(atB)}
                    {cell(atA === null || atB === null ? null : atB - atA, true)}
                    {cell(mean)}
                    <td className="whitespace-nowrap">
                      {channel && (
                        <Link to={slipHref(bench.gadget.id, id)} className="link text-xs">
                          Looks wrong?
                        </Link>
                      )}
                    </td>
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
