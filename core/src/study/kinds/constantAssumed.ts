import { Type } from 'typebox';
import { number, text } from '../../stage/params.ts';
import { UNITS } from '../../units/index.ts';
import { studyKind, type StudyResult } from '../kind.ts';
import { axis, fact, notShown, passes, sized, unasked } from '../words.ts';

/** Of all readings so many must be there both ways: what is left out may be the worst. */
const LEAST_SHARE = 0.9;

/** What it would cost to take one column as constant: a voltage, an air temperature. Told on the maker's own run. */
export const constantAssumed = studyKind<{ column: string; value?: number }>({
  kind: 'constant-assumed',
  title: 'One column held constant',
  question: 'Could a fixed value replace one column?',
  needs: 'A run in which that column varies as it will in use.',
  claim: null,
  settings: Type.Object({
    column: text('Column held constant', 80),
    value: Type.Optional(number('Constant value (blank = mean)')),
  }),
  begin: () => ({ column: '' }),
  inUnit: [],
  columns: [],
  takes: 'held',
  suits: () => true,
  judge({ column, value }, { samples }, { unit, tolerance }): StudyResult {
    if (column === '') return notShown('No column selected.', 'Select the column to hold constant.');
    const [first] = samples;
    if (!first?.held)
      return notShown(
        'No run section added yet.',
        `Add a section of a run in which ${column} varies as it will in use.`,
      );
    const { times, values, held } = first;
    let [n, sum, squares, worst, worstAt] = [0, 0, 0, 0, 0];
    const off = values.map((v, i) => held[i]! - v);
    off.forEach((d, i) => {
      if (Number.isNaN(d)) return;
      n++;
      sum += d;
      squares += d * d;
      if (Math.abs(d) >= Math.abs(worst)) [worst, worstAt] = [d, i];
    });
    if (n === 0)
      return notShown(
        'There is no time at which both versions give a reading.',
        'Add another section, or hold the column at a realistic value.',
      );
    const own = values.filter((v) => !Number.isNaN(v)).length;
    if (n < LEAST_SHARE * own)
      return notShown(
        `With ${column} held constant, only ${n} of ${own} readings occur at the same time: when a reading occurs depends on ${column} itself.`,
        'Select another column; this one cannot be held constant.',
      );
    const sizes = off
      .filter((d) => !Number.isNaN(d))
      .map(Math.abs)
      .sort();
    const most = sizes[Math.min(n - 1, Math.ceil(0.95 * n))]!;
    const facts = [
      fact('Mean error', `${sized(sum / n, unit)}`),
      fact('RMS error', sized(Math.sqrt(squares / n), unit)),
      fact('95 % of errors within', `±${sized(most, unit)}`),
      fact('Largest error', `${sized(worst, unit)}, at a reading of ${sized(values[worstAt]!, unit, 3)}`),
      fact('Held at', value === undefined ? 'mean over the run' : String(value)),
    ];
    const thin = Math.max(1, Math.ceil(off.length / 2000));
    const at = Array.from({ length: Math.ceil(off.length / thin) }, (_, k) => k * thin);
    const plots: StudyResult['plots'] = [
      {
        title: `Error from holding ${column} constant, ${first.name}`,
        x: axis('time', 's'),
        y: axis('error', UNITS[unit].symbol),
        series: [
          {
            label: 'error',
            x: at.map((i) => times[i]! - times[0]!),
            y: at.map((i) => off[i]!),
            style: 'line',
          },
        ],
        allowed: tolerance === null ? null : [-tolerance, tolerance],
      },
    ];
    const said = `With ${column} held constant, 95 % of errors are within ±${sized(most, unit)}, the largest is ${sized(Math.abs(worst), unit)}.`;
    if (tolerance === null) return unasked(said, facts, plots);
    return Math.abs(worst) <= tolerance
      ? passes(`${said} Tolerance for all errors combined: ±${sized(tolerance, unit)}.`, facts, plots)
      : {
          state: 'fail',
          sentence: `${said} Tolerance for all errors combined: ±${sized(tolerance, unit)}.`,
          next: `Keep measuring ${column}, as the line does now.`,
          facts,
          plots,
        };
  },
});
