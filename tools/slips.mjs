// How often the slip finder names the true cause first, and among the first three, over fifty seeds; and what is wrong with
// streams of raw rows, over twenty of each world.
import { table, writeDocTable } from './docTable.mjs';

await writeDocTable({
  place: 'slips',
  test: 'core/test/slips.test.ts',
  env: { SLIP_SEEDS: '50' },
  rowsIn: 'SLIP_ROWS',
  write: ({ byWhat, byFamily }) =>
    [
      table(['slip', 'trials', 'named first', 'in the first three'], byWhat),
      table(['family', 'trials', 'named first', 'in the first three'], byFamily),
    ].join('\n\n'),
});

await writeDocTable({
  place: 'stream-faults',
  test: 'core/test/streamFaults.test.ts',
  env: { STREAM_SEEDS: '20' },
  rowsIn: 'STREAM_ROWS',
  write: (rows) => table(['fault', 'trials', 'named first', 'in the first three'], rows),
});
