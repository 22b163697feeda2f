import { Type } from 'typebox';
import { counting as analyse } from '../../prove/counting.ts';
import { number } from '../../stage/params.ts';
import { printNumber } from '../../units/index.ts';
import { studyKind, type StudyResult } from '../kind.ts';
import { axis, axisOfNames, columnOf, fact, notShown } from '../words.ts';
import { counted } from '../../words/index.ts';

const percent = (share: number) => `${printNumber(100 * share, 1, true)} %`;

/** Counts by hand against counts by the gadget, trial by trial. */
export const counting = studyKind<{ allowedPercent: number }>({
  kind: 'counting',
  title: 'Comparison with manual counts',
  question: 'Does the gadget count correctly?',
  needs: 'At least three trials and 30 counts in total, counted manually while the gadget counts.',
  claim: 'Counts correctly',
  settings: Type.Object({ allowedPercent: number('Tolerance ±', { above: 0, max: 100, unit: '%' }) }),
  begin: ({ tolerance, range }) => ({
    allowedPercent:
      tolerance !== null && range ? Math.min(100, Number(((100 * tolerance) / range[1]).toPrecision(2))) : 5,
  }),
  inUnit: [],
  columns: [
    { id: 'trial', title: 'Trial', holds: 'text', optional: true },
    { id: 'truth', title: 'Manual count', holds: 'count' },
    { id: 'counted', title: 'Gadget count', holds: 'shown' },
  ],
  takes: null,
  trials: true,
  suits: ({ isCount }) => isCount,
  judge({ allowedPercent }, { rows }): StudyResult {
    if (rows.length === 0)
      return notShown('No trial counted manually yet.', 'Count a trial manually while the gadget counts.');
    const [truths, counts] = [columnOf(rows, 'truth'), columnOf(rows, 'counted')];
    const result = analyse(
      truths.map((truth, i) => ({ truth, counted: counts[i]! })),
      allowedPercent / 100,
    );
    const trial = truths.map((_, i) => i + 1);
    const give = result.pooledHalfWidth95;
    const facts = [
      fact(
        'Total error',
        `${percent(result.pooledError)}${Number.isFinite(give) ? ` ±${printNumber(100 * give, 1)} %` : ''}`,
      ),
      fact('Worst trial', percent(result.errors.reduce((w, e) => (Math.abs(e) > Math.abs(w) ? e : w), 0))),
      fact('Missed counts, minimum', counted(result.missed, 'count')),
      fact('Extra counts, minimum', counted(result.extra, 'count')),
      fact(
        'Manual count',
        `${counted(
          truths.reduce((a, b) => a + b, 0),
          'count',
        )} in ${counted(rows.length, 'trial')}`,
      ),
    ];
    const plots: StudyResult['plots'] = [
      {
        title: 'Error by trial',
        x: axisOfNames(
          'trial',
          rows.map(({ values }, i) => String(values['trial'] || i + 1)),
        ),
        y: axis('gadget minus manual count', '%'),
        series: [
          { label: 'trial', x: trial, y: result.errors.map((e) => 100 * e), style: 'points' },
          {
            label: 'total',
            x: [1, rows.length],
            y: [100 * result.pooledError, 100 * result.pooledError],
            style: 'middle',
          },
        ],
        allowed: [-allowedPercent, allowedPercent],
      },
    ];
    const said = `Error ${percent(result.pooledError)} over ${counted(
      truths.reduce((a, b) => a + b, 0),
      'count',
    )} in ${counted(rows.length, 'trial')}; tolerance ±${printNumber(allowedPercent, 1)} %.`;
    const next = {
      pass: '',
      fail:
        result.missed > result.extra
          ? 'Make the event detector more sensitive on the Line page.'
          : 'Make the event detector less sensitive on the Line page.',
      'not shown': 'Count another trial manually.',
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
