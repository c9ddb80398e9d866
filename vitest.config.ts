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
    ],
    testTimeout: 30_000,
  },
});
