import { Download, Printer } from 'lucide-react';
import { format } from 'date-fns';
import { useMemo } from 'react';
import {
  calibrationDrift,
  calibrationDue,
  calibrationFault,
  GUIDED_FITS,
  parameterDrift,
} from '@lucky-needle/core/calibrate';
import { LineError } from '@lucky-needle/core/line';
import type { Calibration, LineSpec } from '@lucky-needle/core/model';
import { printWithin, UNITS, type UnitId } from '@lucky-needle/core/units';
import { usePatchCalibrationMutation, useUseCalibrationVersionMutation } from '../../api/trueUpApi.ts';
import { problemOf } from '../../api/problemOf.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { saveText } from '../../parts/saveText.ts';
import { DriftPlot } from './DriftPlot.tsx';

interface Props {
  readonly calibrations: readonly Calibration[];
  /** The line as bought, which the versions correct. */
  readonly line: LineSpec;
  readonly sampleRateHz: number;
  /** Unit of the reading; null where versions are compared by their constants. */
  readonly unit: UnitId | null;
  /** What is trued up, for files: the gadget and its channel. */
  readonly name: string;
}

const MONTHS = [1, 3, 6, 12, 24] as const;

/** The calibration versions of a channel: put back in use, compared with the one before, written out, and due again. */
export function Versions({ calibrations, line, sampleRateHz, unit, name }: Props) {
  const [use, { isLoading, error }] = useUseCalibrationVersionMutation();
  const [patch, patching] = usePatchCalibrationMutation();
  const drifts = useMemo(
    () => driftsOf(calibrations, line, sampleRateHz, unit),
    [calibrations, line, sampleRateHz, unit],
  );
  const inUse = calibrations.find((c) => c.state === 'in use') ?? null;
  const months = inUse?.goodForMonths ?? 12;
  if (calibrations.length === 0) return null;
  const faultOf = (c: Calibration) => calibrationFault(line, c);
  const due = inUse && calibrationDue(inUse, new Date().toISOString().slice(0, 10));
  return (
    <section className="panel grid gap-2" aria-label="Calibration versions">
      <h2>Calibration versions</h2>
      <ProblemNote problem={problemOf(error ?? patching.error)} />
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
                <span className={`text-xs font-semibold ${faultOf(c) ? 'text-error' : 'text-success'}`}>
                  {faultOf(c) ? '✕ not usable' : '✓ active'}
                </span>
              ) : (
                <button
                  type="button"
                  className="btn btn-ghost btn-xs"
                  disabled={isLoading}
                  onClick={() => void use(c.id)}
                >
                  {c.state === 'replaced' ? 'Use again' : 'Use this calibration'}
                </button>
              )}
            </div>
            {c.state === 'in use' && faultOf(c) && (
              <p role="alert" className="text-xs text-error">
                {faultOf(c)} The channel is uncalibrated: calibrate it again, or use another version.
              </p>
            )}
            {drifts.has(c.id) && <p className="muted text-xs">{driftText(drifts.get(c.id)!)}</p>}
          </li>
        ))}
      </ul>
      {calibrations.length > 1 && (
        <DriftPlot calibrations={calibrations} line={line} sampleRateHz={sampleRateHz} unit={unit} />
      )}
      {inUse && due && (
        <div className="flex flex-wrap items-center gap-2 border-t border-base-300 pt-2 text-sm">
          <label className="flex items-center gap-1.5">
            <span className="muted text-xs">Check again after</span>
            <select
              className="select select-xs w-auto"
              value={months}
              disabled={patching.isLoading}
              onChange={(e) => void patch({ id: inUse.id, patch: { goodForMonths: Number(e.target.value) } })}
            >
              {[...new Set([...MONTHS, months])].map((m) => (
                <option key={m} value={m}>
                  {m === 1 ? '1 month' : `${m} months`}
                </option>
              ))}
            </select>
          </label>
          <span className={due.overdue ? 'font-semibold text-warning' : ''}>
            {due.overdue ? '⚠ check overdue since ' : 'next check due '}
            {format(new Date(due.dueOn), 'd MMM yyyy')}
          </span>
          <button type="button" className="btn btn-xs" onClick={() => window.print()}>
            <Printer className="size-3.5" aria-hidden /> Print record
          </button>
        </div>
      )}
    </section>
  );
}

/** How far a version moved from the one before: where it moved most clearly. */
interface Moved {
  readonly what: string;
  readonly change: number;
  readonly uncertainty: number;
  readonly symbol: string;
  readonly shown: boolean;
}

/** Each version against the one before it, by its id; null for two that cannot be compared. */
function driftsOf(
  calibrations: readonly Calibration[],
  line: LineSpec,
  sampleRateHz: number,
  unit: UnitId | null,
): Map<string, Moved | null> {
  const sorted = calibrations.toSorted((a, b) => a.number - b.number);
  const found = new Map<string, Moved | null>();
  sorted.forEach((later, i) => {
    const earlier = sorted[i - 1];
    if (!earlier) return;
    if (unit === null || GUIDED_FITS.some((f) => f.id === later.result.fit)) {
      const [most] = parameterDrift(earlier.result, later.result);
      found.set(later.id, most ? { ...most, what: `${most.title} `, symbol: most.unit } : null);
      return;
    }
    try {
      const drift = calibrationDrift(line, { sampleRateHz }, earlier.result, later.result);
      const worst = drift.toSorted((a, b) => Math.abs(b.change) - Math.abs(a.change))[0];
      found.set(later.id, worst ? { ...worst, what: '', symbol: UNITS[unit].symbol } : null);
    } catch (failure) {
      // The line has changed since: a version that no longer fits it cannot be compared.
      if (!(failure instanceof LineError || failure instanceof RangeError)) throw failure;
    }
  });
  return found;
}

function driftText(moved: Moved | null): string {
  if (!moved) return 'Nothing in common with the previous version to compare.';
  const { what, change, uncertainty, symbol, shown } = moved;
  const size = `${what}${printWithin(change, uncertainty, true)} ${symbol}`;
  return shown
    ? `Drift since the previous version: ${size}.`
    : `No proven drift since the previous version: ${size}.`;
}
