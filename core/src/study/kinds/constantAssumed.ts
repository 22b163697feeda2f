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
  title: 'One thing taken as constant',
  question: 'Could one column be a fixed number instead?',
  needs: 'A run in which that column moves as it will in use.',
  claim: null,
  settings: Type.Object({
    column: text('Column held still', 80),
    value: Type.Optional(number('At (its mean where left empty)')),
  }),
  begin: () => ({ column: '' }),
  inUnit: [],
  columns: [],
  takes: 'held',
  suits: () => true,
  judge({ column, value }, { samples }, { unit, tolerance }): StudyResult {
    if (column === '')
      return notShown('No column is chosen.', 'Choose the column that is to be taken as constant.');
    const [first] = samples;
    if (!first?.held)
      return notShown('No run has been taken.', `Take a run in which ${column} moves as it will in use.`);
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
        'There is no moment with a reading both ways.',
        'Take another stretch, or hold the column at a value that it may have.',
      );
    const own = values.filter((v) => !Number.isNaN(v)).length;
    if (n < LEAST_SHARE * own)
      return notShown(
        `With ${column} held still it reads at the same moment in ${n} of ${own} readings only: when it reads hangs on ${column} itself.`,
        'Choose another column: this one cannot be taken as constant.',
      );
    const sizes = off
      .filter((d) => !Number.isNaN(d))
      .map(Math.abs)
      .sort();
    const most = sizes[Math.min(n - 1, Math.ceil(0.95 * n))]!;
    const facts = [
      fact('On average', `${sized(sum / n, unit)} off`),
      fact('Root of the mean square', sized(Math.sqrt(squares / n), unit)),
      fact('95 of 100 readings within', `±${sized(most, unit)}`),
      fact('At worst', `${sized(worst, unit)}, where it should read ${sized(values[worstAt]!, unit, 3)}`),
      fact('Held at', value === undefined ? 'its mean over the run' : String(value)),
    ];
    const thin = Math.max(1, Math.ceil(off.length / 2000));
    const at = Array.from({ length: Math.ceil(off.length / thin) }, (_, k) => k * thin);
    const plots: StudyResult['plots'] = [
      {
        title: `What taking ${column} as constant would cost, ${first.name}`,
        x: axis('time', 's'),
        y: axis('off by', UNITS[unit].symbol),
        series: [
          {
            label: 'off by',
            x: at.map((i) => times[i]! - times[0]!),
            y: at.map((i) => off[i]!),
            style: 'line',
          },
        ],
        allowed: tolerance === null ? null : [-tolerance, tolerance],
      },
    ];
    const said = `With ${column} taken as constant it would be off by ±${sized(most, unit)}, ${sized(Math.abs(worst), unit)} at worst.`;
    if (tolerance === null) return unasked(said, facts, plots);
    return Math.abs(worst) <= tolerance
      ? passes(`${said} ±${sized(tolerance, unit)} is allowed for all together.`, facts, plots)
      : {
          state: 'fail',
          sentence: `${said} ±${sized(tolerance, unit)} is allowed for all together.`,
          next: `Measure ${column}, as the line does now.`,
          facts,
          plots,
        };
  },
});
