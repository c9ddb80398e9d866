import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: [
      'core/**/*.test.ts',
      'service/**/*.test.ts',
      'demo/**/*.test.ts',
      'web/**/*.test.ts',
      'scripts/**/*.test.ts',
      'benchmarks/**/*.test.ts',
      'fuzz/**/*.test.ts',
    ],
    testTimeout: 60_000,
    // One fewer than there are cores would leave one of two idle.
    maxWorkers: 2,
    // The core keeps no state between files: its modules are loaded once for all files of a worker.
    isolate: false,
  },
});
