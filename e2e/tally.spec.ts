import { readFileSync } from 'node:fs';
import { expect, type Page, test } from '@playwright/test';
import { addStep, done, expectAccessible, exportText, openBlank, openDemo, step, untilKept } from './bench.ts';

const ledger = (page: Page) => page.getByRole('region', { name: "The report's own totals" });
const checks = (page: Page) => page.getByRole('region', { name: 'Checks' });

async function openTally(page: Page): Promise<void> {
  await page.getByRole('contentinfo').getByRole('link').click();
  await expect(ledger(page)).toBeVisible();
}

/** Drops the sailings of 08:50 by an expression. */
async function dropOneSailing(page: Page): Promise<void> {
  await addStep(page, 'drop rows');
  const editor = await openBlank(page, 11, 'Rules for rows');
  await editor.getByRole('combobox', { name: 'Test' }).first().click();
  await page.getByRole('option', { name: 'a condition holds' }).click();
  const text = editor.getByRole('textbox').last();
  await text.fill(`"Port" = 'Hask' and "Sailing" = time '08:50'`);
  await done(editor);
  await expect(page.getByText('after step 11 · 114 rows')).toBeVisible();
}

test('the tally stands on the foot and on the shelf; every cell of the report leads to where it went', async ({
  page,
}) => {
  await openDemo(page);
  await expect(page.getByRole('contentinfo')).toContainText('✓ 623 of 623 cells, 206 of 206 totals');
  await openTally(page);
  await expect(page.getByRole('status').filter({ hasText: '623 of 623 cells accounted for' })).toBeVisible();
  await expect(page.getByRole('listitem').filter({ hasText: 'carried as a label' })).toContainText('012');

  const map = page.getByRole('img', { name: /^Map of Hask: 28 rows, 9 columns/ });
  await map.focus();
  for (let k = 0; k < 7; k++) await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowRight');
  await expect(page.getByText('Hask!B8 in the table, once')).toBeVisible();
  await page.getByRole('button', { name: 'Show it' }).click();
  await expect(page.getByText('after step 10 ·')).toBeVisible();
  await page.getByRole('link', { name: 'Rimefield' }).click();
  await expect(page.getByText('✓ 623 of 623 cells accounted for, 206 of 206 totals agree')).toBeVisible();
});

test('a step that loses a sailing is found, explained, and led to; undone, all agrees again', async ({ page }) => {
  await openDemo(page);
  await dropOneSailing(page);
  await expect(page.getByRole('contentinfo')).toContainText('✗ 623 of 623 cells, 188 of 206 totals');
  await openTally(page);
  await expect(ledger(page)).toContainText('206 figures, 18 disagree');
  await ledger(page).getByRole('button', { name: 'Hask!B11' }).click();
  await expect(ledger(page)).toContainText('1229 is not in the table: taken out by step 11 onto dropped.');
  await ledger(page).getByRole('button', { name: 'Show step 11' }).click();
  await expect(step(page, 11)).toHaveAttribute('aria-current', 'step');
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('contentinfo')).toContainText('✓ 623 of 623 cells, 206 of 206 totals');
});

test('what a total covers is said otherwise, kept, and taken back', async ({ page }) => {
  await openDemo(page);
  await openTally(page);
  await ledger(page).getByRole('button', { name: 'Hask!B11' }).click();
  await ledger(page).getByRole('textbox', { name: 'It covers' }).fill('B7:B9');
  await ledger(page).getByRole('button', { name: 'Keep' }).click();
  await expect(ledger(page)).toContainText('206 figures, 1 disagree');
  await untilKept(page);
  await page.reload();
  await expect(ledger(page)).toContainText('206 figures, 1 disagree');
  await ledger(page).getByRole('button', { name: 'Hask!B11' }).click();
  await ledger(page).getByRole('button', { name: 'As worked out' }).click();
  await expect(ledger(page)).toContainText('206 figures, 0 disagree');
});

test('checks are offered, fail, lead to their rows, and stop an export', async ({ page }) => {
  await openDemo(page);
  await openTally(page);
  await page.keyboard.press('c');
  await page.getByRole('option', { name: /^Port, Route, Sailing, Month identify each row/ }).click();
  await expect(checks(page)).toContainText('holds: 117 of 117 different');
  await page.getByRole('textbox', { name: 'Add a check' }).click();
  await page.getByRole('option', { name: /^Month is one of April, May, June/ }).click();
  await checks(page)
    .getByRole('button', { name: /^Values, one a line/ })
    .click();
  const editor = page.getByRole('dialog', { name: 'Values, one a line' });
  await editor.getByRole('textbox').fill('April\nMay');
  await done(editor);
  await expect(checks(page)).toContainText('fails: 39 of 117 other: June');
  await checks(page).getByRole('button', { name: 'warns' }).last().click();
  await checks(page).getByRole('button', { name: 'Show the rows' }).click();
  await expect(page.getByRole('contentinfo')).toContainText('1 of 2 checks fail');
  await page.getByRole('button', { name: 'Export' }).click();
  await page.getByRole('menuitem', { name: 'Tidy table as CSV' }).click();
  const refused = 'Traffic fails a check that stops exports: Month is one of April, May';
  await expect(page.getByText(`Nothing was exported: ${refused}`)).toBeVisible();
  // Nor by way of another table, with all of them, or by the clipboard.
  await page.getByRole('button', { name: 'More about tables' }).click();
  await page.getByRole('menuitem', { name: 'New table from Traffic' }).click();
  await page.getByRole('button', { name: 'Export' }).click();
  await page.getByRole('menuitem', { name: 'Other formats …' }).click();
  const dialog = page.getByRole('dialog', { name: 'Export' });
  await dialog.getByRole('button', { name: 'All 2 tables' }).click();
  await expect(dialog).toContainText(refused);
  await page.keyboard.press('Escape');
  await page.getByRole('tab', { name: 'Traffic' }).click();
  await page.getByRole('button', { name: 'Export' }).click();
  await page.getByRole('menuitem', { name: 'Copy the whole table' }).click();
  await expect(page.getByText(`Nothing was exported: ${refused}`).last()).toBeVisible();
  expect(await exportText(page, 'Job file')).toContain('"level": "stop"');
});

test('the proof is one page with method, files, totals and checks', async ({ page }) => {
  await openDemo(page);
  await openTally(page);
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Download the proof' }).click(),
  ]);
  const text = readFileSync((await download.path())!, 'utf8');
  expect(text).toContain('The table is the report: every cell is accounted for');
  expect(text).toContain('206 of 206 of its totals agree');
  expect(text).toMatch(/[0-9a-f]{64}/);
  expect(text).not.toMatch(/<script|https?:/);
  await page.setContent(text);
  await expect(page.getByRole('cell', { name: 'Hask!B11' })).toBeVisible();
});

test('axe finds no violation on the tally and the map', async ({ page }) => {
  test.setTimeout(120_000);
  await openDemo(page);
  await openTally(page);
  await ledger(page).getByRole('button', { name: 'Hask!B11' }).click();
  await expectAccessible(page, 'tally');
  await page.goto('/');
  await page.getByRole('button', { name: 'Plan against outturn' }).click();
  await page.getByRole('link', { name: 'Map' }).click();
  await expect(page.getByText(/\d things? to check/).first()).toBeVisible();
  await expectAccessible(page, 'map');
});
