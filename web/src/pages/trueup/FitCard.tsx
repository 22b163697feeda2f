import type { FitResult } from '@lucky-needle/core/model';
import { useState } from 'react';
import { coverageFactor, FIT_GROUPS, FITS, type FitRecommendation } from '@lucky-needle/core/calibrate';
import {
  printConstant,
  printNominal,
  printNumber,
  printSignificant,
  UNITS,
  type UnitId,
} from '@lucky-needle/core/units';

export interface FitOutcome {
  readonly id: string;
  /** A result, or a sentence that says why there is none. */
  readonly result: FitResult | string;
}

interface Props {
  readonly outcomes: readonly FitOutcome[];
  readonly selected: string;
  readonly recommended: FitRecommendation | null;
  /** From where to where the chosen one gives numbers; null where it has no bound. */
  readonly reach: readonly [low: number, high: number] | null;
  readonly symbolUnit: UnitId;
  /** Puts a stage that fits can work on at the end of the line; null where it has one. */
  readonly onAddCorrection: (() => void) | null;
  onSelect(id: string): void;
}

/** A longer list than this is searched. */
const MANY = 6;

/** The ways to fit, each with the error it makes on points left out, and the constants of the chosen one. */
export function FitCard({
  outcomes,
  selected,
  recommended,
  reach,
  symbolUnit,
  onAddCorrection,
  onSelect,
}: Props) {
  const symbol = UNITS[symbolUnit].symbol;
  const chosen = outcomes.find((o) => o.id === selected);
  const k = chosen && typeof chosen.result !== 'string' ? coverageFactor(chosen.result) : Number.NaN;
  const kind = FITS.find((f) => f.id === selected);
  const [wanted, setWanted] = useState('');
  const words = wanted.toLowerCase().split(/\s+/).filter(Boolean);
  // What is chosen or advised stays in sight, whatever is looked for.
  const listed = outcomes.filter(({ id }) => {
    const { title, assumes } = FITS.find((f) => f.id === id)!;
    const text = `${title} ${assumes}`.toLowerCase();
    return id === selected || id === recommended?.nearest || words.every((w) => text.includes(w));
  });
  const groups = FIT_GROUPS.map(({ title, fits }) => ({
    title,
    outcomes: listed.filter(({ id }) => fits.some((f) => f.id === id)),
  })).filter((g) => g.outcomes.length > 0);
  return (
    <section className="panel grid gap-2" aria-label="Fit">
      <h2>Fit</h2>
      {outcomes.length > MANY && (
        <input
          type="search"
          className="input input-xs w-full"
          placeholder={`Search ${outcomes.length} fits: trim, line, table…`}
          aria-label="Search the fits"
          value={wanted}
          onChange={(e) => setWanted(e.target.value)}
        />
      )}
      <div role="radiogroup" aria-label="Fit" className="grid gap-1.5">
        {groups.map(({ title, outcomes: own }) => (
          <div key={title} role="group" aria-label={title} className="grid gap-1.5">
            {groups.length > 1 && <p className="muted mt-1 text-xs">{title}</p>}
            {own.map(({ id, result }) => (
              <FitRow
                key={id}
                id={id}
                result={result}
                chosen={selected === id}
                advised={recommended?.fit === id}
                symbol={symbol}
                onSelect={onSelect}
              />
            ))}
          </div>
        ))}
      </div>
      {onAddCorrection && (
        <div className="grid gap-2 text-sm">
          <p className="muted">
            {outcomes.length === 0
              ? 'No fit can correct this line yet. '
              : 'The line has no gain or offset to adjust yet. '}
            A gain of 1 and an offset of 0 at its end do not change the reading, but give the fits something
            to adjust.
          </p>
          <button type="button" className="btn btn-sm justify-self-start" onClick={onAddCorrection}>
            Add gain and offset
          </button>
        </div>
      )}
      {outcomes.length > 0 && (
        <p className="muted text-xs">
          Right column: leave-one-out error (2 × rms).{' '}
          {recommended ? recommended.reason : 'More points are needed to recommend a fit.'}
        </p>
      )}
      {chosen && typeof chosen.result === 'string' && <p className="text-sm">{chosen.result}</p>}
      {chosen && typeof chosen.result !== 'string' && (
        <>
          <dl className="grid gap-1 border-t border-base-300 pt-2 text-sm">
            {chosen.result.parameters.map((p) => (
              <div key={p.param} className="flex justify-between gap-2">
                <dt>{p.title}</dt>
                <dd
                  className="num text-right"
                  data-testid={`fitted-${p.param}`}
                  data-value={p.value}
                  data-u={p.u}
                >
                  {printConstant(p.value, k * p.u)}{' '}
                  <span className="muted">±{printConstant(k * p.u, k * p.u)}</span> {p.unit}
                  {p.before !== null && p.before !== p.value && (
                    <span className="muted block text-xs">was {printConstant(p.before, k * p.u)}</span>
                  )}
                </dd>
              </div>
            ))}
          </dl>
          <p className="muted text-xs">
            {kind?.assumes}
            {kind?.parameterCount === 1 &&
              ' The constant’s uncertainty assumes this. The band includes curvature only as far as the points show it; curvature smaller than a point’s uncertainty is hardly visible with so few points. What calibration cannot remove from the part (drift, hysteresis, noise) is added to the uncertainty of the reading.'}{' '}
            Fit: {chosen.result.reason}
            {scatterInWords(chosen.result)}.
          </p>
          {reach && (
            <p className="muted text-xs">
              Readings slightly beyond the points, from {printNominal(reach[0], 3)} to{' '}
              {printNominal(reach[1], 3)} {symbol}, are marked as extrapolated. Beyond that, the reading is
              “out of range”.
            </p>
          )}
        </>
      )}
    </section>
  );
}

interface RowProps extends FitOutcome {
  readonly chosen: boolean;
  readonly advised: boolean;
  readonly symbol: string;
  onSelect(id: string): void;
}

/** A way to fit, and twice the error that it makes on points left out. */
function FitRow({ id, result, chosen, advised, symbol, onSelect }: RowProps) {
  const { title, assumes } = FITS.find((f) => f.id === id)!;
  const usable = typeof result !== 'string' && result.converged;
  return (
    <label className="flex items-center gap-2 text-sm" title={assumes}>
      <input
        type="radio"
        name="fit"
        className="radio radio-xs radio-primary"
        checked={chosen}
        onChange={() => onSelect(id)}
      />
      <span className="grow">
        {title}
        {advised && <span className="ml-1 text-xs text-success">★ recommended</span>}
      </span>
      <span className="num whitespace-nowrap">
        {usable && result.leaveOneOutRms !== null ? (
          `±${printSignificant(2 * result.leaveOneOutRms, 2)} ${symbol}`
        ) : (
          <span className="muted">–</span>
        )}
      </span>
    </label>
  );
}

/** How much more the points scatter than was stated of them, where that widens the constants. */
function scatterInWords({ birge, chiSquare, degreesOfFreedom }: FitResult): string {
  if (!(birge > 1.05)) return '';
  const times = chiSquare !== null && degreesOfFreedom > 0 ? Math.sqrt(chiSquare / degreesOfFreedom) : birge;
  return `; the points scatter ${printNumber(times, 1)} times as much as their uncertainties predict, so the uncertainties of the constants are multiplied by ${printNumber(birge, 1)}`;
}
