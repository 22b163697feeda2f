// How often intervals hold the truth, over a thousand seeds, for every fit and guided true-up. Takes a few minutes.
import { table, writeDocTable } from './docTable.mjs';

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
