import { defineConfig } from '@playwright/test';
import { DROP_FOLDER } from './e2e/drop-folder.ts';
import { CHROMIUM_ARGS, chromiumPath } from './scripts/chromium.ts';

const PORT = 4199;

export default defineConfig({
  testDir: 'e2e',
  timeout: 120_000,
  expect: { timeout: 15_000 },
  // A machine at its limit gives a test a second try; such tests are named as flaky in the report.
  retries: 1,
  fullyParallel: true,
  workers: 2,
  reporter: [['list'], ['json', { outputFile: 'test-results/e2e.json' }]],
  use: {
    baseURL: `http://127.0.0.1:${PORT}`,
    contextOptions: { reducedMotion: 'reduce' },
    viewport: { width: 1280, height: 800 },
    trace: 'on-first-retry',
    // Every test would first keep the whole application; only the test without a network wants it.
    serviceWorkers: 'block',
    launchOptions: { executablePath: chromiumPath(), args: CHROMIUM_ARGS },
  },
  webServer: {
    command: `node -e "fs.rmSync('${DROP_FOLDER}', { recursive: true, force: true })" && node dist/node/cli.js serve`,
    url: `http://127.0.0.1:${PORT}/`,
    env: { PORT: String(PORT), RIMEFIELD_FOLDER: DROP_FOLDER },
    reuseExistingServer: false,
  },
});
