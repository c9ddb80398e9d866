/** What comes next month: another report, many files, a folder in which they arrive. */
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, type Page } from '@playwright/test';
import { unzipSync } from 'fflate';
import { act, addStep, expectAccessible, selectColumns, step, test, tidy } from './bench.ts';
import { DROP_FOLDER } from './drop-folder.ts';

const csv = (name: string, text: string) => ({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });

async function choose(page: Page, click: () => Promise<void>, ...files: ReturnType<typeof csv>[]): Promise<void> {
  const [chooser] = await Promise.all([page.waitForEvent('filechooser'), click()]);
  await chooser.setFiles(files);
}

/** A job of three steps over a small report. */
async function beginJob(page: Page, file: string): Promise<void> {
  await page.goto('/');
  const report = csv(file, 'Pier;Month;Foot\nHask;June;5\nUllin;June;7\nTarve;June;9\n');
  await choose(page, () => page.getByRole('button', { name: 'New job from a file' }).click(), report);
  await expect(page.getByText(/after step 1 ·/)).toBeVisible();
  await addStep(page, 'header');
  await expect(page.getByText(/after step 2 ·/)).toBeVisible();
  await selectColumns(page, 'Foot');
  await act(page, 'Set type');
  await expect(page.getByText('after step 3 · 3 rows')).toBeVisible();
}

async function moreWays(page: Page, entry: RegExp): Promise<void> {
  await page.getByRole('button', { name: 'More ways to run' }).click();
  await page.getByRole('menuitem', { name: entry }).click();
}

async function download(page: Page, button: RegExp): Promise<Buffer> {
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: button }).click()]);
  return readFileSync((await file.path())!);
}

const runAgain = (page: Page, ...files: ReturnType<typeof csv>[]) =>
  choose(page, () => page.getByRole('button', { name: 'Run again' }).click(), ...files);

/** The runs that this browser keeps, the newest first, by the steps and rows of their first table. */
function keptRuns(page: Page): Promise<string[]> {
  return page.evaluate(
    () =>
      new Promise<string[]>((resolve, reject) => {
        const opened = indexedDB.open('rimefield');
        opened.onerror = () => reject(opened.error);
        opened.onsuccess = () => {
          const base = opened.result;
          if (!base.objectStoreNames.contains('history')) {
            base.close();
            resolve([]);
            return;
          }
          const all = base.transaction('history').objectStore('history').getAll();
          all.onsuccess = () => {
            base.close();
            const runs = all.result.flat() as {
              job: { tables: { id: string; steps: unknown[] }[] };
              tables: Record<string, { rows: number }>;
            }[];
            resolve(
              runs.map(({ job, tables }) => {
                const [table] = job.tables;
                return `${table!.steps.length} steps, ${tables[table!.id]!.rows} rows`;
              }),
            );
          };
        };
      }),
  );
}

test('earlier runs are kept and compared, and undo brings the report of before back', async ({ page }) => {
  await beginJob(page, 'piers-1.csv');
  // The run is kept once the tally of all its steps is worked out.
  await expect.poll(() => keptRuns(page)).toEqual(['3 steps, 3 rows']);
  await runAgain(page, csv('piers-2.csv', 'Pier;Month;Foot\nHask;June;5\nUllin;June;8\nBrannoch;June;4\n'));
  const again = page.getByRole('dialog', { name: 'Run again' });
  await expect(again).toContainText('Foot adds up to 17, 21 last time');
  await expect(again).toContainText('new in Pier: Brannoch');
  await again.getByRole('button', { name: 'Use this file' }).click();
  await expect(tidy(page).getByText('Brannoch')).toBeVisible();
  await expect.poll(() => keptRuns(page)).toEqual(['3 steps, 3 rows', '3 steps, 3 rows']);
  await moreWays(page, /^Compare earlier runs/);
  const pane = page.getByRole('region', { name: 'Comparison' });
  await expect(pane.getByRole('status')).toHaveText('3 rows then, 3 now: 1 the same, 1 changed, 1 added, 1 gone');
  await expect(pane.getByRole('table', { name: 'Changed rows' }).getByRole('row')).toContainText(['Pier', 'Ullin']);
  await expect(pane.getByRole('cell', { name: '7 8' })).toBeVisible();
  await expectAccessible(page, 'runs');
  await pane.getByRole('tab', { name: 'Gone 1' }).click();
  await expect(pane.getByRole('table', { name: 'Removed rows' })).toContainText('Tarve');
  await expect(pane.getByRole('list', { name: 'Sums' })).toContainText('Foot 21 → 17 −4');
  // Another key, another comparison: by month alone rows are paired in their order.
  await pane.getByRole('checkbox', { name: 'Pier' }).uncheck();
  await pane.getByRole('checkbox', { name: 'Month' }).check();
  await expect(pane.getByRole('status')).toContainText('1 the same, 2 changed, 0 added, 0 gone');
  await page.getByRole('button', { name: 'Back to the bench' }).click();
  await expect(tidy(page).getByText('Brannoch')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(tidy(page).getByText('Tarve')).toBeVisible();
  await page.keyboard.press('Control+Shift+z');
  await expect(tidy(page).getByText('Brannoch')).toBeVisible();
});

test('many files go through the method one by one; what fails says why, the rest is exported', async ({ page }) => {
  await beginJob(page, 'quays-1.csv');
  await choose(
    page,
    () => moreWays(page, /^On many files/),
    csv('quays-2.csv', 'Pier;Month;Foot\nHask;July;1\n'),
    csv('quays-3.csv', 'Pier;Month;People\nHask;July;1\n'),
    csv('quays-4.csv', 'Pier;Month;Foot\nUllin;July;2\nTarve;July;3\n'),
  );
  const dialog = page.getByRole('dialog', { name: 'Many files' });
  await expect(dialog.getByRole('status')).toHaveText('3 of 3 files: 2 gave 3 rows, 1 failed');
  await expect(dialog.getByRole('listitem').filter({ hasText: 'quays-3.csv' })).toContainText(
    'There is no column Foot',
  );
  await expectAccessible(page, 'many files');
  const files = unzipSync(await download(page, /^Export 2 tables/));
  expect(Object.keys(files)).toEqual(['quays-2.csv', 'quays-4.csv']);
  const stacked = await download(page, /^One table of all/);
  expect(stacked.toString()).toBe(
    'File,Pier,Month,Foot\r\nquays-2.csv,Hask,July,1\r\nquays-4.csv,Ullin,July,2\r\nquays-4.csv,Tarve,July,3\r\n',
  );
  // The report on the bench is what it was.
  await dialog.getByRole('button', { name: 'Close' }).click();
  await expect(tidy(page).getByText('Ullin')).toBeVisible();
});

test('a file that arrives is shown beside its job and run in one action; a job runs on arrival', async ({ page }) => {
  await beginJob(page, 'berths-1.csv');
  writeFileSync(join(DROP_FOLDER, 'in', 'berths-2.csv'), 'Pier;Month;Foot\nBrannoch;July;4\n');
  await page.getByRole('link', { name: 'Rimefield' }).click();
  const arrivals = page.getByRole('region', { name: 'Arrivals' });
  await expect(arrivals.getByRole('button', { name: 'Run berths-1 with it' })).toBeEnabled();
  await expectAccessible(page, 'arrivals');
  await arrivals.getByRole('button', { name: 'Run berths-1 with it' }).click();
  const again = page.getByRole('dialog', { name: 'Run again' });
  await expect(again).toContainText('new in Pier: Brannoch');
  await again.getByRole('button', { name: 'Use this file' }).click();
  await expect(tidy(page).getByText('Brannoch')).toBeVisible();
  await expect.poll(() => existsSync(join(DROP_FOLDER, 'done', 'berths-2.csv'))).toBe(true);
  // A reload does not ask again.
  await page.reload();
  await expect(tidy(page).getByText('Brannoch')).toBeVisible();
  await expect(again).toBeHidden();

  await moreWays(page, /^When a file arrives/);
  const dialog = page.getByRole('dialog', { name: 'When a file arrives' });
  await expect(dialog.getByRole('textbox', { name: 'Names of its files' })).toHaveValue('berths-*.csv');
  await dialog.getByRole('button', { name: 'Run on arrival' }).click();
  await expect(dialog).toBeHidden();
  writeFileSync(join(DROP_FOLDER, 'in', 'berths-3.csv'), 'Pier;Month;Foot\nHask;August;6\n');
  writeFileSync(join(DROP_FOLDER, 'in', 'berths-4.csv'), 'Pier;Month;Guests\nHask;August;6\n');
  await page.getByRole('link', { name: 'Rimefield' }).click();
  const became = arrivals.getByRole('list', { name: 'What became of files' });
  await expect(became.getByRole('listitem').filter({ hasText: 'berths-3.csv' })).toContainText(
    'Table 1: 1 row, 6 of 6 cells',
    {
      timeout: 30_000,
    },
  );
  await expect(became.getByRole('listitem').filter({ hasText: 'berths-4.csv' })).toContainText(
    'There is no column Foot',
  );
  const out = join(DROP_FOLDER, 'out', 'berths-1');
  const [run] = readdirSync(out);
  expect(readFileSync(join(out, run!, 'Table 1.csv'), 'utf8')).toBe('Pier,Month,Foot\r\nHask,August,6\r\n');
  expect(readFileSync(join(DROP_FOLDER, 'aside', 'berths-4.csv.reason.txt'), 'utf8')).toContain(
    'There is no column Foot',
  );
  await page.getByRole('link', { name: 'berths-1' }).click();
  await expect(step(page, 3)).toBeVisible();
  await moreWays(page, /^When a file arrives/);
  await dialog.getByRole('button', { name: 'Stop running on arrival' }).click();
  await expect(dialog).toBeHidden();
});

test('the whole table goes to the clipboard', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await beginJob(page, 'slips-1.csv');
  await page.getByRole('button', { name: 'Export' }).click();
  await page.getByRole('menuitem', { name: 'Copy the whole table' }).click();
  await expect(page.getByText('is on the clipboard')).toBeVisible();
  const pasted = await page.evaluate(async () => {
    const [item] = await navigator.clipboard.read();
    const of = async (type: string) => (await item!.getType(type)).text();
    return { text: await of('text/plain'), page: await of('text/html') };
  });
  expect(pasted.text.replaceAll('\r', '')).toBe('Pier\tMonth\tFoot\nHask\tJune\t5\nUllin\tJune\t7\nTarve\tJune\t9\n');
  expect(pasted.page).toContain('<td>Tarve</td>');
});

test('what the shelf shows stands still once it is there, however late the server says what arrived', async ({
  page,
}) => {
  const said = await (await page.request.get('/api/folder')).body();
  await page.route('**/api/folder', async (route) => {
    await new Promise((resolve) => setTimeout(resolve, 250));
    await route.fulfill({ body: said, contentType: 'application/json' });
  });
  // Where it stands in the frame in which it is there first.
  await page.addInitScript(() => {
    const watched = globalThis as unknown as { firstTop?: number };
    const look = () => {
      const last = [...document.querySelectorAll('button')].find((one) => one.textContent === 'Plan against outturn');
      if (last === undefined) requestAnimationFrame(look);
      else watched.firstTop = last.getBoundingClientRect().top;
    };
    requestAnimationFrame(look);
  });
  await page.goto('/');
  await expect(page.getByRole('region', { name: 'Arrivals' })).toBeVisible();
  const demo = page.getByRole('button', { name: 'Plan against outturn' });
  const top = await demo.evaluate((one) => one.getBoundingClientRect().top);
  expect(top).toBe(await page.evaluate(() => (globalThis as unknown as { firstTop?: number }).firstTop));
});
