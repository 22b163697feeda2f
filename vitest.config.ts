import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    passWithNoTests: false,
    projects: [
      // The core keeps nothing outside its functions, so its test files may share what they have loaded.
      { test: { name: 'core', root: 'core', include: ['test/**/*.test.ts'], isolate: false } },
      {
        test: {
          name: 'server',
          root: 'server',
          include: ['test/**/*.test.ts'],
          testTimeout: 30_000,
          hookTimeout: 30_000,
        },
      },
      'web/vite.config.ts',
    ],
  },
});
