import { useMemo, useState } from 'react';
import { fitSixPosition, withAxes, type Rest } from '@lucky-needle/core/calibrate';
import { printNominal } from '@lucky-needle/core/units';
import { useLive } from '../../../live/useLive.ts';
import type { GuidedProps } from './GuidedCards.tsx';
import { newestMean } from './useCollector.ts';

const SECONDS = 3;
const SIDES = ['+x up', '−x up', '+y up', '−y up', '+z up', '−z up'] as const;

/** Gravity in six rests gives offset, scale and crosstalk of three axes; which side is up is told by the readings. */
export function SixRestsCard({ line, saving, apply }: GuidedProps) {
  const { columns, times } = useLive();
  const [rests, setRests] = useState<readonly Rest[]>([]);
  const now = line.sources.map((s) => newestMean(times, columns.get(s.column), SECONDS));
  const complete = now.every((n) => n !== null);
  const largest = Math.max(...now.map((n) => Math.abs(n?.mean ?? 0)), 1);
  // At rest nothing moves by more than a fiftieth of what gravity pulls.
  const still = complete && now.every((n) => n!.sd < largest / 50);
  const fit = useMemo(() => fitSixPosition(rests, 1), [rests]);
  const keep = () => {
    const raw = now.map((n) => n!.mean) as [number, number, number];
    const u = Math.max(...now.map((n) => n!.sd / Math.sqrt(n!.n)), 1e-3);
    const side = sideOf(raw);
    // A side that is laid down again replaces what was kept of it.
    setRests([...rests.filter((r) => sideOf(r.raw) !== side), { raw, u }]);
  };
  return (
    <section className="panel grid gap-3" aria-label="Six rests">
      <header className="flex flex-wrap items-center gap-3">
        <h2 className="section-title grow">Lay it on each of its six sides</h2>
        <span className={`text-sm ${still ? 'text-success' : 'muted'}`} role="status">
          {!complete ? 'no readings' : still ? `✓ still, ${sideOf(now.map((n) => n!.mean))}` : 'moving'}
        </span>
        <button type="button" className="btn btn-primary btn-sm" disabled={!still} onClick={keep}>
          Keep this rest
        </button>
      </header>
      <ul className="grid gap-2 sm:grid-cols-3">
        {SIDES.map((side) => {
          const rest = rests.find((r) => sideOf(r.raw) === side);
          return (
            <li
              key={side}
              className={`rounded-box border p-2 text-sm ${rest ? 'border-success/60' : 'border-dashed border-base-300'}`}
            >
              <span className="font-semibold">
                {rest ? '✓ ' : ''}
                {side}
              </span>
              <span className="num muted block text-xs">
                {rest ? rest.raw.map((v) => printNominal(v, 5)).join('  ') : 'not yet'}
              </span>
            </li>
          );
        })}
      </ul>
      {typeof fit === 'string' ? (
        <p className="muted text-sm">{fit}</p>
      ) : (
        <div className="rounded-box border border-success/50 p-3 text-sm" data-testid="six-rests">
          <p>
            Offset{' '}
            <span className="num font-semibold">{fit.offset.map((v) => printNominal(v)).join(', ')}</span>{' '}
            counts. Put right, each rest pulls 1 g to within{' '}
            <span className="num font-semibold">
              {printNominal(1000 * Math.max(...fit.residuals.map(Math.abs)), 2)} mg
            </span>
            .
          </p>
          <button
            type="button"
            className="btn btn-primary btn-sm mt-2"
            disabled={saving || !fit.converged}
            onClick={() => apply((l) => withAxes(l, fit, 'gn'), 'The axes are put right in the line.')}
          >
            Put it in the line
          </button>
        </div>
      )}
    </section>
  );
}

/** The axis that gravity pulls along, by the largest reading. */
function sideOf(raw: readonly number[]): (typeof SIDES)[number] {
  const axis = raw.reduce((best, v, k) => (Math.abs(v) > Math.abs(raw[best]!) ? k : best), 0);
  return SIDES[2 * axis + (raw[axis]! < 0 ? 1 : 0)]!;
}
