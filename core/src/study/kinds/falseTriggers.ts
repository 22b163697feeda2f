import { Type } from 'typebox';
import { falseCounts } from '../../prove/counting.ts';
import { number } from '../../stage/params.ts';
import { printSignificant } from '../../units/index.ts';
import { studyKind, type StudyResult } from '../kind.ts';
import { columnOf, fact, notShown, watchedFor } from '../words.ts';
import { counted } from '../../words/index.ts';

const WAYS = ['nothing happens', 'being handled'] as const;
/** Counts for which a negative test without a false one shows fewer at 95 %: -ln 0.05. */
const NONE_SHOWS = -Math.log(0.05);

/** A negative test: what it counts while there is nothing to count. */
export const falseTriggers = studyKind<{ allowedPerHour: number }>({
  kind: 'false-triggers',
  title: 'False triggers',
  question: 'Does the gadget count when there is nothing to count?',
  needs:
    'A period in which nothing happens and a period in which the gadget is only being handled, with the count in each.',
  claim: 'No false counts',
  settings: Type.Object({
    allowedPerHour: number('Maximum false counts per hour', { above: 0, max: 100_000 }),
  }),
  begin: () => ({ allowedPerHour: 6 }),
  inUnit: [],
  columns: [
    { id: 'way', title: 'Condition', holds: 'choice', choices: WAYS },
    { id: 'minutes', title: 'Duration', holds: 'number', unit: 'min' },
    { id: 'counted', title: 'Count', holds: 'shown' },
  ],
  takes: null,
  trials: true,
  suits: ({ isCount }) => isCount,
  judge({ allowedPerHour }, { rows }): StudyResult {
    const tests = WAYS.map((way) => {
      const some = rows.filter((r) => r.values['way'] === way);
      const minutes = columnOf(some, 'minutes').reduce((a, b) => a + b, 0);
      const count = columnOf(some, 'counted').reduce((a, b) => a + b, 0);
      return {
        way,
        minutes,
        count,
        result: minutes > 0 ? falseCounts(count, minutes, allowedPerHour / 60) : null,
      };
    });
    const facts = tests.map(({ way, minutes, count, result }) =>
      fact(
        `While ${way}`,
        result
          ? `${counted(count, 'false count')} in ${watchedFor(minutes)}: fewer than ${printSignificant(60 * result.upper95PerMinute, 2)} per hour with 95 % confidence`
          : 'not tested',
      ),
    );
    const worst = tests.find((t) => t.result?.state === 'fail');
    if (worst)
      return {
        state: 'fail',
        sentence: `${counted(worst.count, 'false count')} in ${watchedFor(worst.minutes)} while ${worst.way}: more than ${allowedPerHour} per hour.`,
        next: 'Make the event detector stricter on the Line page: a higher level, a longer minimum duration or a dead time.',
        facts,
        plots: [],
      };
    const open = tests.filter((t) => t.result?.state !== 'pass');
    if (open.length > 0) {
      const [first] = open;
      // With none more, so long it takes in all until the limit lies below what is allowed.
      const needed = (NONE_SHOWS * 60) / allowedPerHour;
      return notShown(
        open
          .map(({ way, minutes, count }) =>
            minutes > 0
              ? `${counted(count, 'false count')} in ${watchedFor(minutes)} while ${way} is not enough to prove fewer than ${allowedPerHour} per hour.`
              : `Not tested while ${way}.`,
          )
          .join(' '),
        `Leave it running while ${first!.way}: ${printSignificant(needed, 2)} min in total without a false count is proof.`,
        facts,
      );
    }
    return {
      state: 'pass',
      sentence: tests
        .map(
          ({ way, minutes, count }) =>
            `${counted(count, 'false count')} in ${watchedFor(minutes)} while ${way}`,
        )
        .join(', ')
        .concat(`: fewer than ${allowedPerHour} per hour.`),
      next: '',
      facts,
      plots: [],
    };
  },
});
