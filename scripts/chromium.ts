import { existsSync } from 'node:fs';
import { chromium } from '@playwright/test';

/** Where Debian's package puts it. */
const DEBIANS = '/usr/bin/chromium';

/** How the tests and the screenshots start Debian's Chromium: headless, and without looking for anything outside. */
export const CHROMIUM_ARGS = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];

/** The one that CHROMIUM names, else Debian's, else the one that the test library brings: as set-up.mjs installs it. */
export function chromiumPath(): string {
  return process.env.CHROMIUM ?? (existsSync(DEBIANS) ? DEBIANS : chromium.executablePath());
}
