import { format } from 'date-fns';
import type { Calibration } from '@lucky-needle/core/model';
import { useUseCalibrationVersionMutation } from '../../api/api.ts';
import { problemOf } from '../../api/problemOf.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';

/** The calibration versions of a channel; an earlier one can be put back in use. */
export function Versions({ calibrations }: { calibrations: readonly Calibration[] }) {
  const [use, { isLoading, error }] = useUseCalibrationVersionMutation();
  if (calibrations.length === 0) return null;
  return (
    <section className="panel">
      <h2>Versions</h2>
      <ProblemNote problem={problemOf(error)} />
      <ul className="mt-2 grid gap-1 text-sm">
        {calibrations.toReversed().map((c) => (
          <li key={c.id} className="flex items-center gap-2">
            <span className="num">{c.number}</span>
            <span className="grow">
              {c.result.title}{' '}
              <span className="muted text-xs">{format(new Date(c.createdAt), 'd MMM yyyy')}</span>
            </span>
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
          </li>
        ))}
      </ul>
    </section>
  );
}
