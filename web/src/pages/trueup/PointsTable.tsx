import { Fragment, useMemo, useState } from 'react';
import { errorAtPoint, fitPoint, pointHysteresis } from '@lucky-needle/core/calibrate';
import type { CompiledLine } from '@lucky-needle/core/line';
import type { CalibrationPoint, Gadget } from '@lucky-needle/core/model';
import { decimalsFor, printNumber, printWithUncertainty, UNITS } from '@lucky-needle/core/units';
import { usePatchPointMutation } from '../../api/trueUpApi.ts';
import { problemOf } from '../../api/problemOf.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { printCapture } from './printCapture.ts';
import { CorrectReference } from './CorrectReference.tsx';

interface Props {
  readonly gadget: Gadget;
  readonly points: readonly CalibrationPoint[];
  readonly line: CompiledLine;
  readonly tolerance: number | null;
}

/** Every captured point; none is ever deleted, but one may be left out with its reason. */
export function PointsTable({ gadget, points, line, tolerance }: Props) {
  const [patch, { error }] = usePatchPointMutation();
  const [leaving, setLeaving] = useState<{ id: string; reason: string } | null>(null);
  const [correcting, setCorrecting] = useState<string | null>(null);
  const unit = line.outputs[0]!.unit;
  const hysteresis = useMemo(() => pointHysteresis(points, line), [points, line]);
  const sorted = points.toSorted(
    (a, b) => Number(a.role === 'check') - Number(b.role === 'check') || a.worth.value - b.worth.value,
  );
  return (
    <section className="mt-1">
      <ProblemNote problem={problemOf(error)} />
      <div className="overflow-x-auto">
        <table className="table-sm table" aria-label="Points">
          <thead>
            <tr>
              <th className="pl-0">Reference</th>
              <th className="text-right">True value, {UNITS[unit].symbol}</th>
              <th className="text-right">Raw, counts</th>
              <th className="text-right">Remaining error, {UNITS[unit].symbol}</th>
              <th>
                <span className="sr-only">Actions</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {sorted.map((p) => {
              const point = fitPoint(p, unit);
              const { error: left, uncertainty: leftU } = errorAtPoint(line, point);
              const truth = printWithUncertainty(point.reference, 2 * point.uReference, unit);
              const raw = printCapture(p.capture);
              const outside = tolerance !== null && Math.abs(left) > tolerance;
              return (
                <Fragment key={p.id}>
                  <tr className={p.excluded === null ? '' : 'muted'}>
                    <td className="pl-0">
                      <span className={p.role === 'check' ? 'text-success' : 'text-secondary'} aria-hidden>
                        {p.role === 'check' ? '○' : '◇'}
                      </span>{' '}
                      {p.role === 'check' ? 'Check: ' : ''}
                      {p.worth.title}
                      {p.capture.approach && <span className="muted text-xs"> {p.capture.approach}</span>}
                      {p.excluded !== null && <span className="block text-xs">excluded: {p.excluded}</span>}
                    </td>
                    <td className="num text-right whitespace-nowrap">
                      {truth.value} <span className="muted">±{truth.uncertainty}</span>
                    </td>
                    <td className="num text-right whitespace-nowrap">
                      {raw.value} <span className="muted">±{raw.uncertainty}</span>
                    </td>
                    <td className={`num text-right font-semibold ${outside ? 'text-error' : ''}`}>
                      {printNumber(left, decimalsFor(leftU), true)}
                    </td>
                    <td className="text-right whitespace-nowrap">
                      {leaving?.id === p.id ? (
                        <form
                          className="flex justify-end gap-1"
                          onSubmit={(e) => {
                            e.preventDefault();
                            void patch({ id: p.id, patch: { excluded: leaving.reason.trim() } });
                            setLeaving(null);
                          }}
                        >
                          <input
                            autoFocus
                            required
                            maxLength={200}
                            className="input input-xs w-36"
                            aria-label="Reason for excluding"
                            placeholder="reason"
                            value={leaving.reason}
                            onChange={(e) => setLeaving({ id: p.id, reason: e.target.value })}
                          />
                          <button className="btn btn-xs" disabled={leaving.reason.trim() === ''}>
                            Exclude
                          </button>
                        </form>
                      ) : (
                        <>
                          <button
                            type="button"
                            className="btn btn-ghost btn-xs"
                            onClick={() =>
                              void patch({ id: p.id, patch: { role: p.role === 'fit' ? 'check' : 'fit' } })
                            }
                          >
                            {p.role === 'fit' ? 'Use as check' : 'Use in the fit'}
                          </button>
                          <button
                            type="button"
                            className="btn btn-ghost btn-xs"
                            aria-label="Edit reference"
                            title="Correct a wrong reference value"
                            onClick={() => setCorrecting(p.id)}
                          >
                            Edit
                          </button>
                          {p.excluded === null ? (
                            <button
                              type="button"
                              className="btn btn-ghost btn-xs"
                              onClick={() => setLeaving({ id: p.id, reason: '' })}
                            >
                              Exclude
                            </button>
                          ) : (
                            <button
                              type="button"
                              className="btn btn-ghost btn-xs"
                              onClick={() => void patch({ id: p.id, patch: { excluded: null } })}
                            >
                              Include
                            </button>
                          )}
                        </>
                      )}
                    </td>
                  </tr>
                  {correcting === p.id && (
                    <tr>
                      <td colSpan={5} className="pl-0">
                        <CorrectReference
                          point={p}
                          gadget={gadget}
                          unit={unit}
                          onCorrect={(reference) => {
                            void patch({ id: p.id, patch: { reference } });
                            setCorrecting(null);
                          }}
                          onCancel={() => setCorrecting(null)}
                        />
                      </td>
                    </tr>
                  )}
                </Fragment>
              );
            })}
          </tbody>
        </table>
      </div>
      {hysteresis && (
        <p className="mt-1 text-sm" data-testid="hysteresis">
          Hysteresis at {printNumber(hysteresis.reference, 1)} {UNITS[unit].symbol}, approached from above
          minus from below:{' '}
          <span className="num font-semibold">
            {printNumber(hysteresis.difference, decimalsFor(hysteresis.uncertainty), true)}{' '}
            <span className="muted font-normal">
              ±{printNumber(hysteresis.uncertainty, decimalsFor(hysteresis.uncertainty))}
            </span>{' '}
            {UNITS[unit].symbol}
          </span>
          .{' '}
          {Math.abs(hysteresis.difference) <= hysteresis.uncertainty
            ? 'Not significant.'
            : 'The reading depends on the direction of approach; no fit can remove that.'}
        </p>
      )}
    </section>
  );
}
