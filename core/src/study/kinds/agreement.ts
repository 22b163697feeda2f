import { Type } from 'typebox';
import { agreement as analyse } from '../../prove/agreement.ts';
import { number } from '../../stage/params.ts';
import { UNITS } from '../../units/index.ts';
import { studyKind, type StudyResult } from '../kind.ts';
import {
  across,
  axis,
  columnOf,
  counted,
  fact,
  notShown,
  passes,
  sized,
  unasked,
  withWorth,
} from '../words.ts';

const LEAST = 5;

/** Side by side with another instrument: by how much single readings may differ from it. */
export const agreement = studyKind<{ otherU?: number }>({
  kind: 'agreement',
  title: 'Agreement with another instrument',
  question: 'Does it read what another instrument reads?',
  needs: 'Both read side by side, ten times or more, spread over the range.',
  claim: 'Reads what another instrument reads',
  settings: Type.Object({
    otherU: Type.Optional(number('The other is good to ±', { min: 0 })),
  }),
  begin: () => ({}),
  inUnit: ['otherU'],
  columns: [
    { id: 'reference', title: 'The other reads', holds: 'reference' },
    { id: 'shown', title: 'The gadget reads', holds: 'shown' },
  ],
  takes: null,
  suits: () => true,
  judge({ otherU = Number.NaN }, { rows }, { unit, tolerance }): StudyResult {
    if (rows.length < LEAST)
      return notShown(
        `${counted(rows.length, 'pair')}; ${LEAST} are needed, ten are better.`,
        'Read both side by side, and keep the pair.',
      );
    const symbol = UNITS[unit].symbol;
    const result = analyse(columnOf(rows, 'reference'), columnOf(rows, 'shown'), otherU / 2);
    const x = result.points.map((p) => p.mean);
    const [from, to] = [Math.min(...x), Math.max(...x)];
    const [low, high] = result.limits;
    const plots: StudyResult['plots'] = [
      {
        title: 'What lies between them, over the mean of both',
        x: axis('mean of both', symbol),
        y: axis('gadget less the other', symbol),
        series: [
          { label: 'pair', x, y: result.points.map((p) => p.difference), style: 'points' },
          across('on average', from, to, result.bias, 'middle'),
          across('95 of 100 pairs lie between', from, to, low, 'limit'),
          across('95 of 100 pairs lie between', from, to, high, 'limit'),
        ],
        allowed: tolerance === null ? null : [-tolerance, tolerance],
      },
    ];
    const facts = [
      fact('On average', withWorth(result.bias, result.biasHalfWidth95, unit)),
      fact('95 of 100 single readings', `${sized(low, unit)} to ${sized(high, unit)}`),
      fact(
        'Each of these limits',
        Number.isNaN(otherU) ? '± not known' : `±${sized(result.limitHalfWidth95, unit)}`,
      ),
      fact(
        'Along the scale',
        result.trend.p < 0.05
          ? `${result.trend.slope > 0 ? 'grows' : 'falls'} by ${sized(Math.abs(result.trend.slope), unit)} a ${symbol || 'step'} (p ${result.trend.p < 0.001 ? 'below 0.001' : result.trend.p.toFixed(3)})`
          : 'no trend seen',
      ),
    ];
    const farthest = Math.max(Math.abs(low), Math.abs(high));
    const said = `It reads ${withWorth(result.bias, Math.max(result.biasHalfWidth95, (result.biasInterval95[1] - result.biasInterval95[0]) / 2), unit)} against the other; a single reading may differ by up to ${sized(farthest, unit)}.`;
    if (Number.isNaN(otherU))
      return notShown(
        `${said} What the other is good to is not known, so nothing follows about what is true.`,
        'Say what the other instrument is good to.',
        facts,
        plots,
      );
    if (tolerance === null) return unasked(said, facts, plots);
    const u = result.limitHalfWidth95;
    const allowed = `±${sized(tolerance, unit)} is allowed`;
    if (farthest + u <= tolerance) return passes(`${said} ${allowed}.`, facts, plots);
    if (farthest - u > tolerance)
      return {
        state: 'fail',
        sentence: `${said} ${allowed}.`,
        next:
          Math.abs(result.bias) > (high - low) / 2
            ? 'True it up: most of it is the same at every reading.'
            : 'Filter more, or find what moves between the two: most of it is scatter.',
        facts,
        plots,
      };
    return notShown(
      `${said} ${allowed}; the limits themselves are only known to ±${sized(u, unit)}.`,
      1.96 * (otherU / 2) > u / 2 ? 'Find a better instrument to read beside it.' : 'Keep more pairs.',
      facts,
      plots,
    );
  },
});
