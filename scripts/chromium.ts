/** How the tests and the screenshots start Debian's Chromium: headless, and without looking for anything outside. */
export const CHROMIUM_ARGS = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];

export function chromiumPath(): string {
  return process.env.CHROMIUM ?? '/usr/bin/chromium';
}
