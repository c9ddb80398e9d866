/** The bench with a million rows, in the browser: frames while scrolling, and how soon an edit shows. */
import type { AddressInfo } from 'node:net';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { chromium, type Page } from '@playwright/test';
import { CHROMIUM_ARGS, chromiumPath } from '../scripts/chromium.ts';
import { createApp } from '../service/app.ts';
import { type Files, SHEETS } from './reading.ts';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');

export interface BrowserFigures {
  rows: number;
  /** From the drop to the first rows in sight. */
  openMs: number;
  /** The same for a workbook that is chosen. */
  bookMs: number;
  /** The same for a workbook of many sheets, when its page is loaded again, and where each sheet is its own table. */
  sheetsMs: { chosen: number; again: number; tables: number };
  /** Milliseconds from frame to frame while scrolling. */
  frames: { median: number; p95: number; worst: number };
  /** From the key that adds a step to the first rows of its table, in the page. */
  addedMs: number;
  /** From the key that changes a sentence likewise. */
  editMs: number;
  /** The longest time that typing would have waited while the method ran. */
  blockedMs: number;
}

/** Makes the file in the page and drops it there. */
async function dropRows(page: Page, rows: number): Promise<void> {
  await page.evaluate((count) => {
    const ports = ['Hask', 'Ullin', 'Brannoch', 'Tarve'];
    const lines = ['Ref,Port,Day,Foot,Cars,Fare'];
    for (let r = 0; r < count; r++)
      lines.push(
        `B${r},${ports[r % 4]},2031-06-${String((r % 28) + 1).padStart(2, '0')},${r % 97},${r % 13},${(r % 9973) / 100}`,
      );
    const data = new DataTransfer();
    data.items.add(new File([lines.join('\n')], 'million.csv'));
    document.querySelector('main')!.dispatchEvent(new DragEvent('drop', { dataTransfer: data, bubbles: true }));
  }, rows);
}

/** What the shelf makes ready while nobody waits is ready after so long. */
const READY_MS = 2500;

/** From the choice of a file on the shelf to its first rows. */
async function openChosen(page: Page, address: string, file: string): Promise<number> {
  await page.goto(address);
  await page.waitForTimeout(READY_MS);
  const chooser = page.waitForEvent('filechooser');
  await page
    .getByRole('button', { name: /file|report/i })
    .first()
    .click();
  const chosen = await chooser;
  const started = performance.now();
  await chosen.setFiles(file);
  await page.getByText('after step 1 ·').waitFor({ timeout: 120_000 });
  return performance.now() - started;
}

/** From loading the page of a job again to its first rows. */
async function loadAnew(page: Page): Promise<number> {
  // Until what is kept is kept, and what was asked is done.
  await page.waitForTimeout(2 * READY_MS);
  const started = performance.now();
  await page.reload();
  await page.getByText(/after step \d+ ·/).waitFor({ timeout: 120_000 });
  return performance.now() - started;
}

/** Makes of the job at hand one with a table for each sheet, as if each had been added by hand. */
function giveEachSheetATable(page: Page, sheets: number): Promise<void> {
  return page.evaluate(async (count) => {
    const opening = indexedDB.open('rimefield');
    await new Promise((done) => opening.addEventListener('success', done));
    const jobs = opening.result.transaction('jobs', 'readwrite').objectStore('jobs');
    const id = location.pathname.split('/')[2]!;
    const getting = jobs.get(id);
    await new Promise((done) => getting.addEventListener('success', done));
    const kept = getting.result;
    const [table] = kept.job.tables;
    const [reading] = table.steps;
    kept.job.tables = Array.from({ length: count }, (_, n) => ({
      ...table,
      id: `table-${n}`,
      name: `Quay ${n + 1}`,
      steps: [{ ...reading, params: { ...reading.params, sheets: { by: 'names', names: [`Quay ${n + 1}`] } } }],
    }));
    const putting = jobs.put(kept, id);
    await new Promise((done) => putting.addEventListener('success', done));
    opening.result.close();
  }, sheets);
}

/** In the page: keeps how long it takes from the next key until the frame in which a column of this name is drawn. */
function watchForHead(name: string): void {
  const window = globalThis as unknown as { pressed: number; shownMs: number };
  addEventListener(
    'keydown',
    () => {
      window.pressed = performance.now();
    },
    { capture: true, once: true },
  );
  const grid = document.querySelector('[aria-label="Tidy table"]')!;
  new MutationObserver((_, observer) => {
    const heads = [...grid.querySelectorAll('[role=columnheader]')];
    if (!heads.some((head) => head.textContent.includes(name) && head.querySelector('input') === null)) return;
    observer.disconnect();
    requestAnimationFrame(() => {
      window.shownMs = performance.now() - window.pressed;
    });
  }).observe(grid, { subtree: true, childList: true, characterData: true });
}

export async function measureBrowser(rows: number, files: Files): Promise<BrowserFigures> {
  const server = createApp(join(root, 'dist', 'web')).listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  const browser = await chromium.launch({ executablePath: chromiumPath(), args: CHROMIUM_ARGS });
  const address = `http://127.0.0.1:${(server.address() as AddressInfo).port}/`;
  const newPage = () => browser.newPage({ viewport: { width: 1280, height: 800 } });
  const bookPage = await newPage();
  const bookMs = await openChosen(bookPage, address, files.workbook);
  await bookPage.close();
  const sheetsPage = await newPage();
  const chosen = await openChosen(sheetsPage, address, files.sheets);
  const again = await loadAnew(sheetsPage);
  await giveEachSheetATable(sheetsPage, SHEETS);
  const sheetsMs = { chosen, again, tables: await loadAnew(sheetsPage) };
  await sheetsPage.close();
  const page = await newPage();
  // By hand: a draft would put steps of its own behind the reading.
  await page.addInitScript(() =>
    localStorage.setItem('bench-view', JSON.stringify({ state: { drafting: false }, version: 0 })),
  );
  await page.goto(address);
  const started = performance.now();
  await dropRows(page, rows);
  await page.getByText('after step 1 ·').waitFor({ timeout: 120_000 });
  const openMs = performance.now() - started;
  await page.keyboard.press('/');
  await page.getByRole('combobox', { name: 'What next?' }).fill('header');
  await page.keyboard.press('Enter');
  await page.getByText('after step 2 ·').waitFor({ timeout: 120_000 });

  const frames = await page.evaluate(async () => {
    const grid = document.querySelector<HTMLElement>('[aria-label="Tidy table"]')!;
    const taken: number[] = [];
    let last = performance.now();
    for (let k = 0; k < 300; k++) {
      grid.scrollTop += k % 60 === 59 ? 400_000 : 240;
      await new Promise(requestAnimationFrame);
      const now = performance.now();
      taken.push(now - last);
      last = now;
    }
    taken.sort((a, b) => a - b);
    return { median: taken[150]!, p95: taken[285]!, worst: taken[299]! };
  });

  // A column is renamed, which adds a step, and then again and again: its sentence changes, the step runs, its first rows are drawn.
  let name = 'Fare';
  const rename = async (to: string) => {
    const head = page.getByRole('grid', { name: 'Tidy table' }).getByRole('columnheader');
    await head.filter({ hasText: name }).dblclick();
    await page.getByRole('textbox', { name: `New name of ${name}` }).fill(to);
    await page.evaluate(watchForHead, to);
    await page.keyboard.press('Enter');
    await head.filter({ hasText: to }).waitFor();
    name = to;
    // Until what is worked out behind the rows is worked out.
    await page.waitForTimeout(READY_MS);
    return page.evaluate(() => (globalThis as unknown as { shownMs: number }).shownMs);
  };
  const addedMs = await rename('Price');
  await page.evaluate(() => {
    const window = globalThis as unknown as { blocked: number };
    window.blocked = 0;
    let last = performance.now();
    setInterval(() => {
      const now = performance.now();
      window.blocked = Math.max(window.blocked, now - last - 10);
      last = now;
    }, 10);
  });
  const edits: number[] = [];
  for (const to of ['Cost', 'Toll', 'Due', 'Charge', 'Rate']) edits.push(await rename(to));
  const editMs = edits.sort((a, b) => a - b)[2]!;
  const blockedMs = await page.evaluate(() => (globalThis as unknown as { blocked: number }).blocked);
  await browser.close();
  server.close();
  return { rows, openMs, bookMs, sheetsMs, frames, addedMs, editMs, blockedMs };
}
