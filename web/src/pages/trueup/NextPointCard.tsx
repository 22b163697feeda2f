import type { NextPoint } from '@lucky-needle/core/calibrate';
import type { Place } from '@lucky-needle/core/model';
import { referencesNear } from '@lucky-needle/core/references';
import { decimalsFor, printNumber, printSignificant, UNITS, type UnitId } from '@lucky-needle/core/units';
import { lowerFirst } from '@lucky-needle/core/words';

interface Props {
  readonly next: NextPoint;
  /** What the constants may leave open, half of the tolerance. */
  readonly goal: number;
  readonly range: readonly [low: number, high: number];
  readonly unit: UnitId;
  readonly place: Place;
  /** Of the fit that it is about. */
  readonly title: string;
}

/** So near, as a share of the range, a reference counts as being there. */
const NEAR = 0.12;

/** Where a further point tells most, what it brings, how many more there should be, and with what. */
export function NextPointCard({ next, goal, range, unit, place, title }: Props) {
  const { symbol } = UNITS[unit];
  const worth = (half: number) => `±${printSignificant(half, 2)}`;
  const span = range[1] - range[0];
  const at = `${printNumber(next.at, decimalsFor(span / 20))} ${symbol}`.trim();
  const over = `${printSignificant(range[0], 3)} to ${printSignificant(range[1], 3)} ${symbol}`.trim();
  const near = referencesNear(unit, place, next.at, NEAR * span);
  const { pointsLeft, worstNow, worstThen } = next;
  return (
    <section className="panel grid gap-1 text-sm" aria-label="Next point">
      <h2>{pointsLeft === 0 ? 'Enough points' : 'Next point'}</h2>
      {pointsLeft === 0 ? (
        <p>
          From {over}, the calibration is accurate to <span className="num">{worth(worstNow)}</span> {symbol},
          within half the tolerance. A check point with a different reference would now add the most
          confidence.
        </p>
      ) : (
        <>
          <p>
            Near <span className="num font-semibold">{at}</span>:{' '}
            {Number.isFinite(worstNow) ? (
              <>
                <span className="num">
                  {worth(worstNow)} {worth(worstThen) === worth(worstNow) ? 'stays' : 'becomes'}{' '}
                  {worth(worstThen)} {symbol}
                </span>{' '}
                (worst case from {over}).
              </>
            ) : Number.isFinite(worstThen) ? (
              <>
                the calibration would then be accurate to <span className="num">{worth(worstThen)}</span>{' '}
                {symbol} from {over}.
              </>
            ) : (
              'at least two more points are needed before the uncertainty can be estimated.'
            )}
          </p>
          <p className="muted text-xs">
            {pointsLeft === null
              ? `Even eight more points would not reach ${worth(goal)} ${symbol}, half the tolerance. Use a better reference.`
              : `${pointsLeft === 1 ? 'One more point should' : `About ${pointsLeft} more points should`} reach ${worth(goal)} ${symbol}, half the tolerance.`}{' '}
            Fit: {lowerFirst(title)}.{' '}
            {near.length > 0 && `Suitable references: ${near.map(lowerFirst).join('; ')}.`}
          </p>
        </>
      )}
    </section>
  );
}
