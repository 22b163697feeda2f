import { CalendarPlus, Download, Printer } from 'lucide-react';
import { addMonths, format } from 'date-fns';
import { useMemo, useState } from 'react';
import { calibrationDrift, type Drift } from '@lucky-needle/core/calibrate';
import { LineError } from '@lucky-needle/core/line';
import type { Calibration, LineSpec } from '@lucky-needle/core/model';
import { printNominal, UNITS, type UnitId } from '@lucky-needle/core/units';
import { useUseCalibrationVersionMutation } from '../../api/api.ts';
import { problemOf } from '../../api/problemOf.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { saveText } from '../../parts/saveText.ts';

interface Props {
  readonly calibrations: readonly Calibration[];
  /** The line as bought, which the versions correct. */
  readonly line: LineSpec;
  readonly sampleRateHz: number;
  readonly unit: UnitId;
  /** What is trued up, for files and calendar: the gadget and its channel. */
  readonly name: string;
}

const MONTHS = [1, 3, 6, 12, 24] as const;

/** The calibration versions of a channel: put back in use, compared with the one before, written out, and due again. */
export function Versions({ calibrations, line, sampleRateHz, unit, name }: Props) {
  const [use, { isLoading, error }] = useUseCalibrationVersionMutation();
  const [months, setMonths] = useState<number>(12);
  const drifts = useMemo(
    () => driftsOf(calibrations, line, sampleRateHz),
    [calibrations, line, sampleRateHz],
  );
  const inUse = calibrations.find((c) => c.state === 'in use') ?? null;
  if (calibrations.length === 0) return null;
  const symbol = UNITS[unit].symbol;
  const due = inUse && addMonths(new Date(inUse.createdAt), months);
  return (
    <section className="panel grid gap-2" aria-label="Versions">
      <h2>Versions</h2>
      <ProblemNote problem={problemOf(error)} />
      <ul className="grid gap-2 text-sm">
        {calibrations.toReversed().map((c) => (
          <li key={c.id}>
            <div className="flex items-center gap-2">
              <span className="num">{c.number}</span>
              <span className="grow">
                {c.result.title}{' '}
                <span className="muted text-xs">{format(new Date(c.createdAt), 'd MMM yyyy')}</span>
              </span>
              <button
                type="button"
                className="btn btn-ghost btn-xs px-1"
                aria-label={`Save version ${c.number} as JSON`}
                title="Save as JSON"
                onClick={() =>
                  saveText(
                    `calibration-${c.number}.json`,
                    'application/json',
                    `${JSON.stringify({ form: 'calibration', version: 1, of: name, line, calibration: c }, null, 2)}\n`,
                  )
                }
              >
                <Download className="size-3.5" aria-hidden />
              </button>
              {c.state === 'in use' ? (
                <span className="text-xs font-semibold text-success">✓ in use</span>
              ) : (
                <button
                  type="button"
                  className="btn btn-ghost btn-xs"
                  disabled={isLoading}
                  onClick={() => void use(c.id)}
                >
                  {c.state === 'replaced' ? 'Put back' : 'Put in use'}
                </button>
              )}
            </div>
            {drifts.has(c.id) && <p className="muted text-xs">{driftText(drifts.get(c.id)!, symbol)}</p>}
          </li>
        ))}
      </ul>
      {inUse && due && (
        <div className="flex flex-wrap items-center gap-2 border-t border-base-300 pt-2 text-sm">
          <label className="flex items-center gap-1.5">
            <span className="muted text-xs">Check again after</span>
            <select
              className="select select-xs w-auto"
              value={months}
              onChange={(e) => setMonths(Number(e.target.value))}
            >
              {MONTHS.map((m) => (
                <option key={m} value={m}>
                  {m === 1 ? 'a month' : `${m} months`}
                </option>
              ))}
            </select>
          </label>
          <button
            type="button"
            className="btn btn-xs"
            onClick={async () => {
              const { dueCalendar } = await import('./dueCalendar.ts');
              saveText('true-up.ics', 'text/calendar', dueCalendar(inUse, name, due));
            }}
          >
            <CalendarPlus className="size-3.5" aria-hidden /> {format(due, 'd MMM yyyy')}
          </button>
          <button type="button" className="btn btn-xs" onClick={() => window.print()}>
            <Printer className="size-3.5" aria-hidden /> Record
          </button>
        </div>
      )}
    </section>
  );
}

/** Each version against the one before it, by its id. */
function driftsOf(
  calibrations: readonly Calibration[],
  line: LineSpec,
  sampleRateHz: number,
): Map<string, Drift[]> {
  const sorted = calibrations.toSorted((a, b) => a.number - b.number);
  const found = new Map<string, Drift[]>();
  sorted.forEach((later, i) => {
    const earlier = sorted[i - 1];
    if (!earlier) return;
    try {
      found.set(later.id, calibrationDrift(line, { sampleRateHz }, earlier.result, later.result));
    } catch (failure) {
      // The line has changed since: a version that no longer fits it cannot be compared.
      if (!(failure instanceof LineError || failure instanceof RangeError)) throw failure;
    }
  });
  return found;
}

function driftText(drift: readonly Drift[], symbol: string): string {
  if (drift.length === 0) return 'Shares no range with the version before.';
  const worst = drift.reduce((a, b) => (Math.abs(b.change) > Math.abs(a.change) ? b : a));
  const size = `${worst.change > 0 ? '+' : ''}${printNominal(worst.change, 2)} ±${printNominal(worst.uncertainty, 2)} ${symbol}`;
  return worst.shown
    ? `Drifted by ${size} against the version before.`
    : `No drift shown against the version before: ${size} at most.`;
}
