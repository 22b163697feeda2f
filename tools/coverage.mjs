// How often intervals hold the truth: of every fit and guided true-up, over a thousand seeds, which takes a few minutes; with
// --figures of every figure that the families ask for, in two thousand worlds that nothing was chosen by: a quarter of an hour.
import { table, writeDocTable } from './docTable.mjs';

if (process.argv.includes('--figures'))
  await writeDocTable({
    place: 'figure coverage',
    test: 'core/test/figureCoverage.test.ts',
    env: { FIGURE_SEEDS: '2000', FIGURE_FROM: '700000' },
    rowsIn: 'FIGURE_ROWS',
    write: (rows) => table(['family', 'trial', 'result', 'interval', 'held'], rows),
  });
else
  await writeDocTable({
    place: 'coverage',
    test: 'core/test/coverage.test.ts',
    env: { COVERAGE_TRIALS: '1000' },
    rowsIn: 'COVERAGE_ROWS',
    write: ({ fits, guided }) =>
      [
        table(
          ['fit', 'points', 'constants', 'band', 'width', 'band of a bent sensor', 'its reading as shown'],
          fits,
        ),
        table(['guided true-up', 'evidence', 'constants'], guided),
      ].join('\n\n'),
  });
