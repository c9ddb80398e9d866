/** One job is open at a time: edits, files and runs belong to it, however quickly jobs are changed. */
import { readFileSync } from 'node:fs';
import { utils, write } from '@e965/xlsx';
import { expect, type Page } from '@playwright/test';
import { dropBytes, exportText, openDemo, report, selectStep, test, tidy } from './bench.ts';

const jobName = (page: Page) => page.getByRole('textbox', { name: 'Name of the job' });
const encode = (text: string) => new TextEncoder().encode(text);

async function jobFrom(page: Page, text: string, name: string): Promise<string> {
  await page.goto('/');
  await dropBytes(page, encode(text), name);
  await expect(page.getByText(/after step 1 ·/)).toBeVisible();
  return new URL(page.url()).pathname;
}

test('an edit made right before another job is opened is kept, and each job shows its own', async ({ page }) => {
  const first = await jobFrom(page, 'Port,Foot\nHask,1\n', 'first.csv');
  const second = await jobFrom(page, 'Port,Foot\nUllin,2\nTarve,3\n', 'second.csv');
  // Without loading the page again, as a link does.
  const go = (path: string) =>
    page.evaluate((to) => {
      history.pushState(null, '', to);
      dispatchEvent(new PopStateEvent('popstate'));
    }, path);
  await go(first);
  await expect(tidy(page).getByText('Hask')).toBeVisible();
  await jobName(page).fill('Renamed');
  await go(second);
  await go(first);
  await go(second);
  await expect(tidy(page).getByText('Tarve')).toBeVisible();
  await expect(tidy(page).getByText('Hask')).toHaveCount(0);
  await go(first);
  await expect(jobName(page)).toHaveValue('Renamed');
  await expect(tidy(page).getByText('Hask')).toBeVisible();
});

test('who leaves right behind an edit is asked, and the edit is kept meanwhile', async ({ page }) => {
  await jobFrom(page, 'Port,Foot\nHask,1\n', 'first.csv');
  await jobName(page).fill('Renamed');
  await expect(page.getByText(/^saved \d/)).toBeVisible();
  const asked = await page.getByRole('button', { name: 'Undo' }).evaluate((button: HTMLElement) => {
    const isAsked = () => {
      const leaving = new Event('beforeunload', { cancelable: true });
      dispatchEvent(leaving);
      return leaving.defaultPrevented;
    };
    const before = isAsked();
    button.click();
    return [before, isAsked()];
  });
  expect(asked).toEqual([false, true]);
  await expect(page.getByText(/^saved \d/)).toBeVisible();
  await page.reload();
  await expect(jobName(page)).toHaveValue('first');
});

test('a copy of a job has the same ids and its own table', async ({ page }) => {
  const job = JSON.parse(readFileSync('demo/files/quay-returns.job.json', 'utf8'));
  await openDemo(page);
  const text = await exportText(page, 'Job file');
  expect(JSON.parse(text).tables[0].id).toBe(job.tables[0].id);
  await page.goto('/');
  job.tables[0].steps.length = 1;
  job.name = 'Short copy';
  await dropBytes(page, encode(JSON.stringify(job)), 'copy.job.json');
  await expect(jobName(page)).toHaveValue('Short copy');
  await expect(page.getByText(/is not in this browser/).first()).toBeVisible();
  await expect(tidy(page).getByText('Foot')).toHaveCount(0);
});

test('a sheet that is unlike the others is left out, and becomes its own table', async ({ page }) => {
  const sheets = {
    Hask: utils.aoa_to_sheet([
      ['Sailing', 'Foot'],
      ['07:10', 5],
      ['07:40', 9],
    ]),
    Ullin: utils.aoa_to_sheet([
      ['Foot', 'Sailing'],
      [7, '08:10'],
      [1, '08:40'],
    ]),
    Mates: utils.aoa_to_sheet([
      ['Name', 'Rank', 'Joined'],
      ['Isla Tolm', 'Mate', '2029'],
      ['Ewan Marr', 'Master', '2030'],
    ]),
  };
  const bytes = write({ SheetNames: Object.keys(sheets), Sheets: sheets }, { type: 'buffer', bookType: 'xlsx' });
  await page.goto('/');
  await dropBytes(page, new Uint8Array(bytes as Buffer), 'quays.xlsx');
  await expect(page.getByText(/after step 1 · 6 rows/)).toBeVisible();
  await expect(page.getByText('Ullin has its columns in another order than Hask')).toBeVisible();
  await page.getByRole('tab', { name: 'Mates' }).click();
  await page.getByRole('button', { name: 'Make a table of Mates' }).click();
  await expect(page.getByRole('tab', { name: 'Mates' }).first()).toHaveAttribute('aria-selected', 'true');
  await expect(page.getByText(/after step 1 · 3 rows/)).toBeVisible();
  await expect(tidy(page).getByText('Isla Tolm')).toBeVisible();
  await expect(report(page).getByText('Isla Tolm')).toBeVisible();
  await selectStep(page, 1);
});

test('totals that a step explains are accepted, and agree from then on', async ({ page }) => {
  const job = JSON.parse(readFileSync('demo/files/quay-returns.job.json', 'utf8'));
  expect(job.tables).toHaveLength(1);
  await openDemo(page);
  await page.keyboard.press('/');
  await page.getByRole('combobox', { name: 'What next?' }).fill('drop rows');
  // A few rows show what the step does before it is added.
  const example = page.getByRole('region', { name: /^Example: Drop rows/ });
  await expect(example.getByRole('table', { name: 'Set aside' }).getByRole('cell', { name: 'Ullin' })).toBeVisible();
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: /^Rules for rows:/ }).click();
  const editor = page.getByRole('dialog', { name: 'Rules for rows' });
  await editor.getByRole('combobox', { name: 'Test' }).first().click();
  await page.getByRole('option', { name: 'a condition holds' }).click();
  await editor.getByRole('textbox').last().fill(`"Port" = 'Hask' and "Sailing" = time '08:50'`);
  await editor.getByRole('button', { name: 'Done' }).click();
  await expect(page.getByRole('contentinfo')).toContainText('✗ 623 of 623 cells, 188 of 206 totals');
  await page.getByRole('contentinfo').getByRole('link').click();
  const ledger = page.getByRole('region', { name: "The report's own totals" });
  await ledger.getByRole('button', { name: 'Hask!B11' }).click();
  await ledger.getByRole('button', { name: 'Accept', exact: true }).click();
  await expect(ledger).toContainText('206 figures, 0 disagree, 18 differ by rows left out');
  await expect(ledger.getByRole('button', { name: 'Do not accept' })).toBeVisible();
});

test('what goes wrong in Rimefield itself is said, and the page goes on', async ({ page }) => {
  await openDemo(page);
  // As the browser tells it: of a promise that a debugger rejects, it tells nothing.
  await page.evaluate(() => {
    const reason = new RangeError('made up for the test');
    dispatchEvent(new PromiseRejectionEvent('unhandledrejection', { promise: Promise.resolve(), reason }));
  });
  await expect(page.getByText('Unexpected error (made up for the test). Your job is saved.')).toBeVisible();
  await jobName(page).fill('Going on');
  await expect(jobName(page)).toHaveValue('Going on');
});
