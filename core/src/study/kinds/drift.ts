import { Type } from 'typebox';
import { fitPolynomial, normalQuantile, studentTQuantile } from '../../numerics/index.ts';
import { number } from '../../stage/params.ts';
import { isoSeconds, UNITS } from '../../units/index.ts';
import { studyKind, type StudyResult } from '../kind.ts';
import { axis, columnOf, fact, notShown, passes, sized, unasked, withWorth } from '../words.ts';
import { counted } from '../../words/index.ts';

const DAY_S = 86_400;
const LEAST = 4;

/** The same reference over days: how long the calibration holds. */
export const drift = studyKind<{ referenceU?: number; holdDays: number }>({
  kind: 'drift',
  title: 'Drift over days',
  question: 'How long does the calibration hold?',
  needs: 'The same reference measured on at least four days, over at least a quarter of the required period.',
  claim: 'Stable over the required period',
  settings: Type.Object({
    holdDays: number('Required period', { above: 0, max: 10_000, unit: 'd' }),
    referenceU: Type.Optional(number('Reference stability ±', { min: 0 })),
  }),
  begin: () => ({ holdDays: 90 }),
  inUnit: ['referenceU'],
  columns: [
    { id: 'day', title: 'Date', holds: 'day' },
    { id: 'reference', title: 'Reference', holds: 'reference' },
    { id: 'shown', title: 'Reading', holds: 'shown' },
  ],
  takes: null,

  suits: () => true,
  judge({ holdDays, referenceU = Number.NaN }, { rows }, { unit, tolerance }): StudyResult {
    const symbol = UNITS[unit].symbol;
    const seconds = rows.map(({ values }) => isoSeconds(String(values['day'])));
    if (seconds.some(Number.isNaN))
      return notShown('A row has no valid date.', 'Enter a date in each row, such as 2026-05-04.');
    const days = seconds.map((s) => (s - Math.min(...seconds)) / DAY_S);
    const errors = columnOf(rows, 'shown').map((v, i) => v - columnOf(rows, 'reference')[i]!);
    const distinct = new Set(days).size;
    if (distinct < LEAST)
      return notShown(
        `${counted(distinct, 'day')} so far; at least ${LEAST} are needed.`,
        'Measure the same reference again on another day.',
      );
    const line = fitPolynomial(days, errors, 1);
    const [start, slope] = line.coefficients as [number, number];
    const span = Math.max(...days);
    const t = studentTQuantile(0.975, days.length - 2);
    // A reference may itself have moved by what it stays to, from one end of the time to the other.
    const u = Math.hypot(
      t * Math.sqrt(line.covariance[1]![1]!),
      (normalQuantile(0.975) * Math.SQRT2 * (referenceU / 2)) / span,
    );
    const moved = Math.abs(slope) * holdDays;
    const facts = [
      fact('Per day', withWorth(slope, u, unit)),
      fact(`In ${holdDays} days`, withWorth(slope * holdDays, u * holdDays, unit)),
      fact('Observed over', counted(Math.round(span), 'day')),
    ];
    const plots: StudyResult['plots'] = [
      {
        title: 'Error over time',
        x: axis('days since the first measurement', 'd'),
        y: axis('reading minus reference', symbol),
        series: [
          { label: 'reading', x: days, y: errors, style: 'points' },
          { label: 'drift', x: [0, span], y: [start, start + slope * span], style: 'middle' },
        ],
        allowed: tolerance === null ? null : [-tolerance, tolerance],
      },
    ];
    const said = `The reading drifts by ${withWorth(slope * holdDays, u * holdDays, unit)} in ${holdDays} days.`;
    if (Number.isNaN(referenceU))
      return notShown(
        `${said} The stability of the reference is unknown.`,
        'Enter the stability of the reference.',
        facts,
        plots,
      );
    if (tolerance === null) return unasked(said, facts, plots);
    if (moved - u * holdDays > tolerance)
      return {
        state: 'fail',
        sentence: `${said} Tolerance ±${sized(tolerance, unit)}.`,
        next: `Calibrate every ${Math.max(1, Math.floor(tolerance / (Math.abs(slope) + u)))} days.`,
        facts,
        plots,
      };
    if (span < holdDays / 4)
      return notShown(
        `${said} Observed over only ${counted(Math.round(span), 'day')}; at least a quarter of ${holdDays} days is needed.`,
        'Measure the same reference again later.',
        facts,
        plots,
      );
    if (moved + u * holdDays > tolerance)
      return notShown(
        `${said} Tolerance ±${sized(tolerance, unit)}; not proven yet.`,
        'Measure the same reference on more days or over a longer time.',
        facts,
        plots,
      );
    return passes(`${said} Tolerance ±${sized(tolerance, unit)}.`, facts, plots);
  },
});
