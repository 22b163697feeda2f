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
              ? 'No fit corrects this line as it is. '
              : 'What it reads cannot be shifted or scaled yet. '}
            A gain of one and an offset of zero at its end change nothing, and give every fit something to
            find.
          </p>
          <button type="button" className="btn btn-sm justify-self-start" onClick={onAddCorrection}>
            Add a gain and offset
          </button>
        </div>
      )}
      {outcomes.length > 0 && (
        <p className="muted text-xs">
          At right: error on points left out in turn (2 rms).{' '}
          {recommended ? recommended.reason : 'More points will tell which is best.'}
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
              ' Its ± takes that for granted. Its band allows for a bow as far as the points show one, and one no larger than the ± of a point hardly shows in so few. What the part keeps after a true-up comes to it, in the ± of the reading.'}{' '}
            The fit {chosen.result.reason}
            {scatterInWords(chosen.result)}.
          </p>
          {reach && (
            <p className="muted text-xs">
              It goes on a little beyond its points, from {printNominal(reach[0], 3)} to{' '}
              {printNominal(reach[1], 3)} {symbol}, and is marked there; further out it says “out of range”.
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
        {advised && <span className="ml-1 text-xs text-success">★ advised</span>}
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
  return `; the points scatter ${printNumber(times, 1)} times as much as their uncertainties say, so those of the constants are widened ${printNumber(birge, 1)} times`;
}
