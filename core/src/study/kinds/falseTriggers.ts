import { Type } from 'typebox';
import { falseCounts } from '../../prove/counting.ts';
import { number } from '../../stage/params.ts';
import { printSignificant } from '../../units/index.ts';
import { studyKind, type StudyResult } from '../kind.ts';
import { columnOf, counted, fact, notShown, watchedFor } from '../words.ts';

const WAYS = ['nothing happens', 'being handled'] as const;
/** Counts for which a negative test without a false one shows fewer at 95 %: -ln 0.05. */
const NONE_SHOWS = -Math.log(0.05);

/** A negative test: what it counts while there is nothing to count. */
export const falseTriggers = studyKind<{ allowedPerHour: number }>({
  kind: 'false-triggers',
  title: 'False triggers',
  question: 'What does it count when there is nothing to count?',
  needs:
    'Minutes in which nothing happens, and minutes in which it is only being handled; what it counted in each.',
  claim: 'Counts nothing where there is nothing',
  settings: Type.Object({ allowedPerHour: number('False ones allowed an hour', { above: 0, max: 100_000 }) }),
  begin: () => ({ allowedPerHour: 6 }),
  inUnit: [],
  columns: [
    { id: 'way', title: 'While', holds: 'choice', choices: WAYS },
    { id: 'minutes', title: 'For', holds: 'number', unit: 'min' },
    { id: 'counted', title: 'It counted', holds: 'shown' },
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
          ? `${counted(count, 'false one')} in ${watchedFor(minutes)}: below ${printSignificant(60 * result.upper95PerMinute, 2)} an hour at 95 %`
          : 'not tried',
      ),
    );
    const worst = tests.find((t) => t.result?.state === 'fail');
    if (worst)
      return {
        state: 'fail',
        sentence: `${counted(worst.count, 'false one')} in ${watchedFor(worst.minutes)} while ${worst.way}: more than ${allowedPerHour} an hour.`,
        next: 'Ask for more before it counts: a higher threshold, a longer hold, or a dead time, on the Line page.',
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
              ? `${counted(count, 'false one')} in ${watchedFor(minutes)} while ${way} does not show fewer than ${allowedPerHour} an hour.`
              : `Not tried while ${way}.`,
          )
          .join(' '),
        `Leave it on while ${first!.way}: ${printSignificant(needed, 2)} min in all without a false one would show it.`,
        facts,
      );
    }
    return {
      state: 'pass',
      sentence: tests
        .map(
          ({ way, minutes, count }) =>
            `${counted(count, 'false one')} in ${watchedFor(minutes)} while ${way}`,
        )
        .join(', ')
        .concat(`: fewer than ${allowedPerHour} an hour.`),
      next: '',
      facts,
      plots: [],
    };
  },
});
