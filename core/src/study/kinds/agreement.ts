import { Type } from 'typebox';
import { agreement as analyse } from '../../prove/agreement.ts';
import { number } from '../../stage/params.ts';
import { UNITS } from '../../units/index.ts';
import { studyKind, type StudyResult } from '../kind.ts';
import { across, axis, columnOf, fact, notShown, passes, sized, unasked, withWorth } from '../words.ts';
import { counted } from '../../words/index.ts';

const LEAST = 5;

/** Side by side with another instrument: by how much single readings may differ from it. */
export const agreement = studyKind<{ otherU?: number }>({
  kind: 'agreement',
  title: 'Agreement with another instrument',
  question: 'Does the gadget agree with another instrument?',
  needs: 'Ten or more pairs of readings taken side by side, spread over the range.',
  claim: 'Agrees with another instrument',
  settings: Type.Object({
    otherU: Type.Optional(number('Comparison instrument uncertainty ±', { min: 0 })),
  }),
  begin: () => ({}),
  inUnit: ['otherU'],
  columns: [
    { id: 'reference', title: 'Comparison instrument', holds: 'reference' },
    { id: 'shown', title: 'Gadget', holds: 'shown' },
  ],
  takes: null,
  suits: () => true,
  judge({ otherU = Number.NaN }, { rows }, { unit, tolerance }): StudyResult {
    if (rows.length < LEAST)
      return notShown(
        `${counted(rows.length, 'pair')}; at least ${LEAST} are needed, ten are better.`,
        'Read both instruments side by side and add the pair.',
      );
    const symbol = UNITS[unit].symbol;
    const result = analyse(columnOf(rows, 'reference'), columnOf(rows, 'shown'), otherU / 2);
    const x = result.points.map((p) => p.mean);
    const [from, to] = [Math.min(...x), Math.max(...x)];
    const [low, high] = result.limits;
    const plots: StudyResult['plots'] = [
      {
        title: 'Difference against the mean of both',
        x: axis('mean of both', symbol),
        y: axis('gadget minus comparison instrument', symbol),
        series: [
          { label: 'pair', x, y: result.points.map((p) => p.difference), style: 'points' },
          across('mean difference', from, to, result.bias, 'middle'),
          across('95 % of differences', from, to, low, 'limit'),
          across('95 % of differences', from, to, high, 'limit'),
        ],
        allowed: tolerance === null ? null : [-tolerance, tolerance],
      },
    ];
    const facts = [
      fact('Mean difference', withWorth(result.bias, result.biasHalfWidth95, unit)),
      fact('95 % of differences', `${sized(low, unit)} to ${sized(high, unit)}`),
      fact(
        'Uncertainty of these limits',
        Number.isNaN(otherU) ? 'unknown' : `±${sized(result.limitHalfWidth95, unit)}`,
      ),
      fact(
        'Trend over the range',
        result.trend.p < 0.05
          ? `${result.trend.slope > 0 ? 'rises' : 'falls'} by ${sized(Math.abs(result.trend.slope), unit)} per ${symbol || 'unit'} (p ${result.trend.p < 0.001 ? 'below 0.001' : result.trend.p.toFixed(3)})`
          : 'no significant trend',
      ),
    ];
    const farthest = Math.max(Math.abs(low), Math.abs(high));
    const said = `The gadget differs from the comparison instrument by ${withWorth(result.bias, Math.max(result.biasHalfWidth95, (result.biasInterval95[1] - result.biasInterval95[0]) / 2), unit)} on average; a single reading may differ by up to ${sized(farthest, unit)}.`;
    if (Number.isNaN(otherU))
      return notShown(
        `${said} The uncertainty of the comparison instrument is unknown, so this says nothing about the true value.`,
        'Enter the uncertainty of the comparison instrument.',
        facts,
        plots,
      );
    if (tolerance === null) return unasked(said, facts, plots);
    const u = result.limitHalfWidth95;
    const allowed = `Tolerance ±${sized(tolerance, unit)}`;
    if (farthest + u <= tolerance) return passes(`${said} ${allowed}.`, facts, plots);
    if (farthest - u > tolerance)
      return {
        state: 'fail',
        sentence: `${said} ${allowed}.`,
        next:
          Math.abs(result.bias) > (high - low) / 2
            ? 'Calibrate: most of the difference is a constant offset.'
            : 'Filter more, or find what varies between the two: most of the difference is scatter.',
        facts,
        plots,
      };
    return notShown(
      `${said} ${allowed}; the limits themselves are uncertain by ±${sized(u, unit)}.`,
      1.96 * (otherU / 2) > u / 2 ? 'Use a better comparison instrument.' : 'Add more pairs.',
      facts,
      plots,
    );
  },
});
