import { Type } from 'typebox';
import { counting as analyse } from '../../prove/counting.ts';
import { number } from '../../stage/params.ts';
import { printNumber } from '../../units/index.ts';
import { studyKind, type StudyResult } from '../kind.ts';
import { axis, axisOfNames, columnOf, counted, fact, notShown } from '../words.ts';

const percent = (share: number) => `${printNumber(100 * share, 1, true)} %`;

/** Counts by hand against counts by the gadget, trial by trial. */
export const counting = studyKind<{ allowedPercent: number }>({
  kind: 'counting',
  title: 'Counting by hand beside it',
  question: 'Does it count what there is to count?',
  needs: 'Three trials or more, 30 counts or more in all, counted by hand while the gadget counts.',
  claim: 'Counts what there is to count',
  settings: Type.Object({ allowedPercent: number('It may be off by', { above: 0, max: 100, unit: '%' }) }),
  begin: ({ tolerance, range }) => ({
    allowedPercent:
      tolerance !== null && range ? Math.min(100, Number(((100 * tolerance) / range[1]).toPrecision(2))) : 5,
  }),
  inUnit: [],
  columns: [
    { id: 'trial', title: 'Trial', holds: 'text', optional: true },
    { id: 'truth', title: 'By hand', holds: 'count' },
    { id: 'counted', title: 'By the gadget', holds: 'shown' },
  ],
  takes: null,
  trials: true,
  suits: ({ isCount }) => isCount,
  judge({ allowedPercent }, { rows }): StudyResult {
    if (rows.length === 0)
      return notShown('No trial has been counted by hand.', 'Count one by hand while the gadget counts.');
    const [truths, counts] = [columnOf(rows, 'truth'), columnOf(rows, 'counted')];
    const result = analyse(
      truths.map((truth, i) => ({ truth, counted: counts[i]! })),
      allowedPercent / 100,
    );
    const trial = truths.map((_, i) => i + 1);
    const give = result.pooledHalfWidth95;
    const facts = [
      fact(
        'All together',
        `${percent(result.pooledError)}${Number.isFinite(give) ? `, ±${printNumber(100 * give, 1)} %` : ''}`,
      ),
      fact('Worst trial', percent(result.errors.reduce((w, e) => (Math.abs(e) > Math.abs(w) ? e : w), 0))),
      fact('Missed, at least', counted(result.missed, 'count')),
      fact('Too many, at least', counted(result.extra, 'count')),
      fact(
        'By hand',
        `${counted(
          truths.reduce((a, b) => a + b, 0),
          'count',
        )} in ${counted(rows.length, 'trial')}`,
      ),
    ];
    const plots: StudyResult['plots'] = [
      {
        title: 'Error of each trial',
        x: axisOfNames(
          'trial',
          rows.map(({ values }, i) => String(values['trial'] || i + 1)),
        ),
        y: axis('counted less true', '%'),
        series: [
          { label: 'trial', x: trial, y: result.errors.map((e) => 100 * e), style: 'points' },
          {
            label: 'all together',
            x: [1, rows.length],
            y: [100 * result.pooledError, 100 * result.pooledError],
            style: 'middle',
          },
        ],
        allowed: [-allowedPercent, allowedPercent],
      },
    ];
    const said = `${percent(result.pooledError)} over ${counted(
      truths.reduce((a, b) => a + b, 0),
      'count',
    )} in ${counted(rows.length, 'trial')}; ±${printNumber(allowedPercent, 1)} % is allowed.`;
    const next = {
      pass: '',
      fail:
        result.missed > result.extra
          ? 'Lower what counts as an event on the Line page.'
          : 'Raise what counts as an event on the Line page.',
      'not shown': 'Count another trial by hand.',
    }[result.state];
    return {
      state: result.state,
      sentence: `${said}${result.why ? ` ${result.why}` : ''}`,
      next,
      facts,
      plots,
    };
  },
});
