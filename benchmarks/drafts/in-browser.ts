/** How soon a draft stands on the bench, in the browser. */
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { CHROMIUM_ARGS, chromiumPath } from '../../scripts/chromium.ts';
import { createApp } from '../../service/app.ts';
import { largeReport } from './large-report.ts';

const RUNS = 3;

/** Milliseconds from the drop of a report, each the median of three. */
export interface DraftTimes {
  /** Until the drafted steps are in sight, with their reasons. */
  steps: number;
  /** Until the table that they give is in sight too. */
  table: number;
  /** Until it is proven, and can be kept. */
  proven: number;
}

export async function draftTimes(rows: number): Promise<DraftTimes> {
  const report = Buffer.from(largeReport(rows)).toString('base64');
  const server = createApp(join(import.meta.dirname, '..', '..', 'dist', 'web')).listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  const browser = await chromium.launch({ executablePath: chromiumPath(), args: CHROMIUM_ARGS });
  const times: DraftTimes[] = [];
  for (let run = 0; run < RUNS; run++) {
    const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
    await page.goto(`http://127.0.0.1:${(server.address() as AddressInfo).port}/`);
    // As long as it takes to find the file on the desktop.
    await page.waitForTimeout(2500);
    const data = await page.evaluateHandle((text) => {
      const bytes = Uint8Array.from(atob(text), (character) => character.charCodeAt(0));
      const transfer = new DataTransfer();
      transfer.items.add(new File([bytes], 'returns.csv'));
      return transfer;
    }, report);
    // The page itself looks at the clock, so that nobody asking it again and again is measured too.
    await page.evaluate(() => {
      const seen: Record<string, number> = {};
      let dropped = 0;
      addEventListener('drop', () => (dropped = performance.now()), { capture: true });
      new MutationObserver(() => {
        const text = document.querySelector('main')?.textContent ?? '';
        const keep = [...document.querySelectorAll('button')].find((one) => one.textContent?.startsWith('Keep all'));
        for (const [what, is] of [
          ['steps', /drafted, \d+ steps/.test(text)],
          ['table', /drafted · [1-9]/.test(text)],
          ['proven', keep !== undefined && !keep.disabled],
        ] as const)
          if (is) seen[what] ??= performance.now() - dropped;
        (globalThis as unknown as { seen: typeof seen }).seen = seen;
      }).observe(document.body, { subtree: true, childList: true, characterData: true, attributes: true });
    });
    await page.dispatchEvent('main', 'drop', { dataTransfer: data });
    await page.locator('button:enabled', { hasText: 'Keep all' }).waitFor({ timeout: 120_000 });
    await page.getByText(/^drafted · [1-9]/).waitFor({ timeout: 120_000 });
    times.push(await page.evaluate(() => (globalThis as unknown as { seen: DraftTimes }).seen));
    await page.context().close();
  }
  await browser.close();
  server.close();
  const median = (of: (one: DraftTimes) => number) => times.map(of).sort((a, b) => a - b)[Math.floor(RUNS / 2)]!;
  return {
    steps: median((one) => one.steps),
    table: median((one) => one.table),
    proven: median((one) => one.proven),
  };
}
