import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    passWithNoTests: false,
    // What was made of a source file for one run is there for the next.
    experimental: { fsModuleCache: true },
    projects: [
      // The core keeps nothing outside its functions, so its test files may share what they have loaded.
      {
        test: {
          name: 'core',
          root: 'core',
          include: ['test/**/*.test.ts'],
          isolate: false,
          // Simulations take their time on a busy machine; none of it is asserted.
          testTimeout: 60_000,
        },
      },
      {
        test: {
          name: 'server',
          root: 'server',
          include: ['test/**/*.test.ts'],
          // Each file opens servers of its own on folders of their own; loading the program once for all saves a minute.
          isolate: false,
          testTimeout: 60_000,
          hookTimeout: 60_000,
        },
      },
      'web/vite.config.ts',
    ],
  },
});
