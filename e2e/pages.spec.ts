import { expect, test } from '@playwright/test';
import { addStep, done, openBlank, openDemo, report, selectColumns, selectStep, step, tidy } from './bench.ts';

test('a column of the report is marked as a total, and its head leads back to the step', async ({ page }) => {
  await openDemo(page);
  await selectStep(page, 6);
  await expect(page.getByText('after step 6 · 39 rows × 11 columns')).toBeVisible();
  await report(page).getByRole('columnheader').nth(1).click();
  const menu = page.getByRole('dialog', { name: 'Column B of the report' });
  await menu.getByRole('radio', { name: 'total' }).hover();
  await expect(page.getByText('Set aside as totals: 39 rows × 10 columns, not taken yet')).toBeVisible();
  await menu.getByRole('radio', { name: 'total' }).click();
  await expect(step(page, 7)).toContainText('Set aside as totals the columns April / Foot');
  await expect(step(page, 7)).toContainText('for the tally');
  await expect(report(page).getByRole('columnheader').nth(1)).toContainText('total');
  await selectStep(page, 8);
  await report(page).getByRole('columnheader').nth(1).click();
  await menu.getByRole('button', { name: 'Go to the step' }).click();
  await expect(step(page, 7)).toHaveAttribute('aria-current', 'step');
});

test('columns held in sight stay when the table is scrolled sideways, and after a reload', async ({ page }) => {
  await openDemo(page);
  await selectStep(page, 6);
  await selectColumns(page, 'Sailing');
  await page.getByRole('button', { name: 'Freeze' }).click();
  const head = tidy(page).getByRole('columnheader').filter({ hasText: 'Sailing' });
  const before = (await head.boundingBox())!.x;
  await tidy(page).hover();
  const last = tidy(page).getByRole('columnheader').filter({ hasText: 'Quarter / Vehicles' });
  await expect(async () => {
    await page.mouse.wheel(1200, 0);
    await expect(last).toBeInViewport({ timeout: 2000 });
  }).toPass();
  expect((await head.boundingBox())!.x).toBe(before);
  await expect(page.getByText(/^saved \d/)).toBeVisible();
  await page.reload();
  await selectStep(page, 6);
  await selectColumns(page, 'Sailing');
  await expect(page.getByRole('button', { name: 'Unfreeze' })).toHaveAttribute('aria-pressed', 'true');
});

test('the report follows the table when it is scrolled, from sheet to sheet', async ({ page }) => {
  await openDemo(page);
  await tidy(page).hover();
  await page.mouse.wheel(0, 24 * 80);
  await expect(async () => {
    await page.mouse.wheel(0, 1);
    await expect(page.getByRole('tab', { name: 'Brannoch' })).toHaveAttribute('aria-selected', 'true', {
      timeout: 2000,
    });
  }).toPass();
});

test('a rectangle lights all cells that it came from, and F8 walks through them', async ({ page }) => {
  await openDemo(page);
  const from = (await tidy(page).locator('[data-cell="0:4"]').boundingBox())!;
  const to = (await tidy(page).locator('[data-cell="2:4"]').boundingBox())!;
  await page.mouse.move(from.x + 8, from.y + 8);
  await page.mouse.down();
  await page.mouse.move(to.x + 8, to.y + 8, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByRole('contentinfo')).toContainText('3 × 1 cells came from Hask!B7, Hask!D7, Hask!F7');
  await expect(report(page).locator('[data-cell="6:1"]')).toHaveClass(/lit/);
  await page.keyboard.press('F8');
  await expect(page.getByRole('contentinfo')).toContainText('Hask!B7 1 of 3 it came from');
  await page.keyboard.press('F8');
  await expect(page.getByRole('contentinfo')).toContainText('Hask!D7 2 of 3');
});

test('an expression is completed, tried on the first rows, and told where it is wrong', async ({ page }) => {
  await openDemo(page);
  await addStep(page, 'expression');
  const editor = await openBlank(page, 11, 'Expression');
  const text = editor.getByRole('textbox', { name: 'Expression' });
  await text.click();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('"Foot passengers" + Veh');
  await page.getByRole('option', { name: 'Vehicles' }).click();
  await expect(editor.getByText('gives 1489 · 1612 · 1705')).toBeVisible();
  await page.keyboard.type(' +');
  await expect(editor.getByRole('alert')).toContainText('at the end');
  await expect(editor.locator('.cm-lintRange-error')).toHaveCount(1);
  await page.keyboard.press('Backspace');
  await page.keyboard.press('Backspace');
  await done(editor);
  await expect(tidy(page).locator('[data-cell="0:6"]')).toHaveText('1489');
});

test('columns for a blank are picked in the sheet', async ({ page }) => {
  await openDemo(page);
  await addStep(page, 'keep columns');
  const editor = await openBlank(page, 11, 'Columns to keep');
  const head = (name: string) => tidy(page).getByRole('columnheader').filter({ hasText: name });
  await expect(page.getByText('before step 11 · click on the columns')).toBeVisible();
  await head('Month').click();
  await head('Vehicles').click();
  await expect(editor.getByRole('checkbox', { checked: true })).toHaveCount(4);
  await done(editor);
  await expect(page.getByText('after step 11 · 117 rows × 4 columns')).toBeVisible();
});

test('types are offered with the patterns that fit the values', async ({ page }) => {
  await openDemo(page);
  await selectStep(page, 8);
  await expect(page.getByText('after step 8 · 117 rows × 6 columns')).toBeVisible();
  const editor = await openBlank(page, 9, 'Types of columns');
  await editor.getByRole('combobox', { name: 'Type' }).first().click();
  await page.getByRole('option', { name: 'time', exact: true }).click();
  const fits = editor.getByRole('group', { name: 'Patterns that fit' });
  await expect(fits.first().getByRole('button', { name: /^HH:mm reads all/ })).toBeVisible();
});

test('arrow keys lead from sheet to sheet, and Enter takes the one that is reached', async ({ page }) => {
  await openDemo(page);
  const sheets = page.getByRole('tablist', { name: 'Sheets' });
  await sheets.getByRole('tab', { name: 'Hask' }).focus();
  await page.keyboard.press('ArrowRight');
  await expect(sheets.getByRole('tab', { name: 'Ullin' })).toBeFocused();
  await expect(sheets.getByRole('tab', { name: 'Hask' })).toHaveAttribute('aria-selected', 'true');
  await page.keyboard.press('Enter');
  await expect(sheets.getByRole('tab', { name: 'Ullin' })).toHaveAttribute('aria-selected', 'true');
  await page.keyboard.press('End');
  await expect(sheets.getByRole('tab', { name: 'Tarve' })).toBeFocused();
});
