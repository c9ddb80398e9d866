/** Actions from the dropped file to the true table, where the draft is the way. */
import { readFileSync } from 'node:fs';
import { expect, type Locator, type Page, test } from '@playwright/test';
import papaparse from 'papaparse';
import { differs, type Truth } from '../benchmarks/drafts/same-table.ts';
import { ACTIONS, DRAFTED } from './actions.ts';
import { dropBytes, dropFile, exportText, openBlank, selectStep, tidy } from './bench.ts';
import { GENERATED } from './generated.ts';
import { dragOver, Hands } from './hands.ts';

function tableOf(csv: string): Truth {
  const [names = [], ...rows] = papaparse.parse<string[]>(csv, { skipEmptyLines: true }).data;
  return { names, rows };
}

/** Waits for the draft of a dropped report and keeps its draft by Enter alone. */
async function keepAll(page: Page): Promise<void> {
  await drafted(page);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'Draft' })).toBeHidden();
  await expect(page.getByText(/after step \d+ ·/)).toBeVisible();
}

async function drafted(page: Page): Promise<void> {
  await expect(page.getByRole('region', { name: 'Draft' }).getByRole('button', { name: /^Keep all/ })).toBeEnabled({
    timeout: 30_000,
  });
}

/** The exported table against the truth: by what the columns hold, since a report does not say all names. */
async function isTrue(page: Page, truth: Truth): Promise<void> {
  expect(differs(tableOf(await exportText(page, 'Tidy table as CSV')), truth)).toBeUndefined();
}

const truthOf = (name: string) => tableOf(readFileSync(`demo/truth/${name}.csv`, 'utf8'));

/** Demo reports whose draft is the true table. */
const BY_ENTER: Readonly<Record<string, { file: string; truth: string }>> = {
  'booking-export': { file: 'booking-export.csv', truth: 'booking-export' },
  'quay-returns': { file: 'quay-returns-q2.xlsx', truth: 'quay-returns-q2' },
  weighbridge: { file: 'weighbridge.prn', truth: 'weighbridge' },
  'sailing-records': { file: 'sailings.json', truth: 'sailings' },
  manifest: { file: 'manifest.txt', truth: 'manifest' },
  'timetable-copy': { file: 'timetable-copy.csv', truth: 'timetable-copy' },
  'monthly-files': { file: 'arrivals-2030.zip', truth: 'arrivals-2030' },
  'crew-list': { file: 'crew-list.txt', truth: 'crew-list' },
  'fares-page': { file: 'fares.html', truth: 'fares' },
  crossings: { file: 'crossings.pdf', truth: 'crossings' },
};

test('ten of the demo reports: Enter alone', async ({ page }) => {
  test.setTimeout(180_000);
  for (const [name, { file, truth }] of Object.entries(BY_ENTER)) {
    await test.step(name, async () => {
      await page.goto('/');
      await dropFile(page, `demo/files/${file}`);
      await keepAll(page);
      await isTrue(page, truthOf(truth));
      expect(DRAFTED[name]).toBe(0);
    });
  }
});

/** Opens the dialog of a join. */
async function joining(page: Page, hands: Hands): Promise<Locator> {
  await page.keyboard.press('/');
  await page.getByRole('combobox', { name: 'What next?' }).fill('join a table');
  await page.keyboard.press('Enter');
  hands.count += 2;
  return page.getByRole('dialog', { name: 'Join a table' });
}

test('gate-log: the date and the time of the stamp apart', async ({ page }) => {
  await page.goto('/');
  await dropFile(page, 'demo/files/gate.log');
  await drafted(page);
  const hands = new Hands(page);
  await selectStep(page, 4);
  hands.count++;
  await expect(page.getByText(/^drafted · 128 rows × 8 columns/)).toBeVisible();
  const stamp = tidy(page).locator('[data-cell="0:0"]');
  await expect(stamp).toHaveText('2031-06-02 06:09:48');
  await dragOver(page, stamp, ' ');
  const bar = page.getByRole('toolbar', { name: 'Actions for what is selected' });
  await bar.getByRole('button', { name: /into 2 columns$/ }).click();
  hands.count += 2;
  // What follows is drafted again behind the split.
  await keepAll(page);
  hands.count++;
  await isTrue(page, truthOf('gate'));
  expect(hands.count).toBe(DRAFTED['gate-log']);
});

test('plan-outturn: two sheets drafted, joined to their variance', async ({ page }) => {
  test.setTimeout(120_000);
  await page.goto('/');
  await dropFile(page, 'demo/files/plan-outturn.xlsx');
  await keepAll(page);
  const hands = new Hands(page);
  await page.getByRole('tab', { name: 'Plan', exact: true }).click();
  await page.getByRole('button', { name: 'Make a table of Plan' }).click();
  hands.count += 2;
  await keepAll(page);
  hands.count++;
  const dialog = await joining(page, hands);
  await dialog.getByRole('button', { name: /^ignoring blanks, case and accents/ }).click();
  await expect(dialog.getByText('36 of 36 match').first()).toBeVisible();
  await dialog.getByRole('button', { name: 'Keep it' }).click();
  hands.count += 2;
  await hands.select('Amount', 'Value');
  await hands.step('variance');
  await hands.select('Notes');
  await hands.take('Drop');
  await isTrue(page, truthOf('plan-outturn'));
  expect(hands.count).toBe(DRAFTED['plan-outturn']);
});

test('targets: two files drafted, grouped and joined to their variance', async ({ page }) => {
  test.setTimeout(120_000);
  await page.goto('/');
  await dropFile(page, 'demo/files/targets-2030.xlsx');
  await keepAll(page);
  const hands = new Hands(page);
  await dropFile(page, 'demo/files/bookings-2030.csv');
  await page.getByRole('button', { name: /^Add it to this job/ }).click();
  hands.count++;
  await keepAll(page);
  hands.count++;
  const steps = await page.getByRole('region', { name: 'Method' }).locator('ol').first().locator('> li').count();
  await hands.select('Type');
  await hands.take('Recode');
  const crosswalk = await openBlank(page, steps + 1, 'Crosswalk');
  const fields = crosswalk.getByRole('textbox');
  await fields.nth(1).fill('Foot');
  await fields.nth(3).fill('Vehicles');
  await crosswalk.getByRole('button', { name: 'Done' }).click();
  hands.count += 2;
  await hands.step('expression');
  await hands.blank(steps + 2, 'Column for the result', 'Quarter');
  await hands.blank(steps + 2, 'Expression', `'Q' || extract(quarter from "Date")`);
  await hands.select('Berth', 'Type', 'Quarter');
  await hands.take('Group by');
  await page.getByRole('tablist', { name: 'Tables' }).getByRole('tab').first().click();
  hands.count++;
  await expect(page.getByText(/after step \d+ · 64 rows/)).toBeVisible();
  const dialog = await joining(page, hands);
  await expect(dialog.getByText('64 of 64 match').first()).toBeVisible();
  await dialog.getByRole('button', { name: 'Keep it' }).click();
  hands.count++;
  await hands.select('Booked', 'Value');
  await hands.step('variance');
  await isTrue(page, truthOf('targets-2030'));
  expect(hands.count).toBe(DRAFTED['targets']);
});

test('fewer than by hand for every demo report, none by hand for nine, under six on average', () => {
  expect(Object.keys(DRAFTED).sort()).toEqual(Object.keys(ACTIONS).sort());
  const counts = Object.values(DRAFTED);
  for (const [name, count] of Object.entries(DRAFTED)) expect(count).toBeLessThanOrEqual(ACTIONS[name]!);
  expect(counts.filter((count) => count === 0).length).toBeGreaterThanOrEqual(9);
  expect(counts.reduce((sum, count) => sum + count, 0) / counts.length).toBeLessThan(6);
});

// In two halves, so that two cores share them.
for (const half of [0, 1]) {
  test(`twenty generated reports, ${half === 0 ? 'the first' : 'the last'} ten: Enter alone`, async ({ page }) => {
    test.setTimeout(180_000);
    for (const report of GENERATED.slice(half * 10, half * 10 + 10)) {
      await test.step(report.family, async () => {
        await page.goto('/');
        await dropBytes(page, report.bytes, report.name);
        await keepAll(page);
        expect(differs(tableOf(await exportText(page, 'Tidy table as CSV')), report.want)).toBeUndefined();
      });
    }
  });
}
