import { expect, type Page } from '@playwright/test';
import {
  act,
  addStep,
  choose,
  done,
  exportText,
  openBlank,
  openDemo,
  selectColumns,
  step,
  test,
  tidy,
} from './bench.ts';

async function newJob(page: Page, text: string, name = 'data.csv'): Promise<void> {
  await page.goto('/');
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByRole('button', { name: 'New job from a file' }).click(),
  ]);
  await chooser.setFiles({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });
  await expect(page.getByText(/after step 1 ·/)).toBeVisible();
  await addStep(page, 'header from rows');
  await expect(page.getByText(/after step 2 ·/)).toBeVisible();
}

test('every kind of step is found by its title, reads as a sentence, and each of its blanks opens an editor', async ({
  page,
}) => {
  test.setTimeout(240_000);
  await openDemo(page);
  await page.keyboard.press('/');
  const titles = await page.getByRole('option').locator('b').allTextContents();
  expect(titles.length).toBeGreaterThan(38);
  await page.keyboard.press('Escape');
  for (const title of titles) {
    // They open something of their own, which other tests go through.
    if (title === 'Split off columns' || title === 'Show the row you want') continue;
    await addStep(page, title);
    const added = step(page, 11);
    await expect(added, title).toBeVisible();
    const blanks = added.locator('p [role=button]');
    for (let k = 0; k < (await blanks.count()); k++) {
      await blanks.nth(k).click();
      const editor = page.getByRole('dialog');
      await expect(editor, `${title}, blank ${k + 1}`).toBeVisible();
      await expect(editor.getByRole('button', { name: 'Done' })).toBeVisible();
      await page.keyboard.press('Escape');
      await expect(editor).toBeHidden();
    }
    await added.focus();
    await page.keyboard.press('Delete');
    await expect(page.getByText('after step 10 ·')).toBeVisible();
  }
});

test('group, sort and compute by hand, with the wrong expression told at its place', async ({ page }) => {
  await newJob(page, 'Port,Foot,Cars\nHask,"1,204",10\nUllin,866,0\nHask,900,5\n');
  await selectColumns(page, 'Foot', 'Cars');
  await act(page, 'Set type');
  await expect(step(page, 3)).toContainText('6 values read, 0 unreadable');
  await selectColumns(page, 'Port');
  await addStep(page, 'group');
  await expect(step(page, 4)).toContainText('sum of Foot');
  await addStep(page, 'expression');
  let editor = await openBlank(page, 5, 'Expression');
  await editor.getByRole('textbox', { name: 'Expression' }).fill('Foot / Carrs');
  await done(editor);
  await expect(step(page, 5)).toContainText('There is no column Carrs. Did you mean Cars?');
  editor = await openBlank(page, 5, 'Expression');
  await editor.getByRole('textbox', { name: 'Expression' }).fill('Foot / Cars');
  await done(editor);
  await expect(step(page, 5)).toContainText('1 cell of Result could not be computed: division by zero');
  await addStep(page, 'sort');
  editor = await openBlank(page, 6, 'Columns to sort by');
  await choose(page, editor, 'Column', 'Foot');
  await done(editor);
  expect(await exportText(page, 'Tidy table as CSV')).toBe(
    'Port,Foot,Cars,Result\r\nUllin,866,0,division by zero\r\nHask,2104,15,140.26666666666668\r\n',
  );
});

test('a notice leads to its rows, one after the other', async ({ page }) => {
  await newJob(page, `Foot\n${Array.from({ length: 300 }, (_, r) => (r % 100 === 99 ? 'n/a' : r)).join('\n')}\n`);
  await addStep(page, 'to number');
  const editor = await openBlank(page, 3, 'Types of columns');
  await choose(page, editor, 'Type', 'whole number');
  await done(editor);
  const notice = step(page, 3).getByRole('button', { name: /3 cells of Foot unreadable/ });
  await notice.click();
  await expect(tidy(page).locator('[data-cell="99:0"]')).toBeVisible();
  await notice.click();
  await expect(tidy(page).locator('[data-cell="199:0"]')).toBeVisible();
  await expect(tidy(page).locator('[data-cell="199:0"]')).toHaveClass(/lit/);
});

test('two tables: one starts from the other, a join says what did not match, and undo takes it all back', async ({
  page,
}) => {
  await newJob(page, 'Code,Port,Foot\nH,Hask,5\nU,Ullin,7\nH,Hask,6\nX,,1\n');
  await page.getByRole('button', { name: 'More about tables' }).click();
  await page.getByRole('menuitem', { name: 'New table from Table 1' }).click();
  await expect(page.getByText(/after step 1 · 4 rows/)).toBeVisible();
  await addStep(page, 'join a table');
  const dialog = page.getByRole('dialog', { name: 'Join a table' });
  // Foot tells the rows apart; by the code alone a row meets several.
  await dialog.getByRole('combobox', { name: 'Column here, key 1' }).click();
  await page.getByRole('option', { name: 'Code' }).click();
  await dialog.getByRole('combobox', { name: 'Column there, key 1' }).click();
  await page.getByRole('option', { name: 'Code' }).click();
  await expect(dialog.getByText('1 key matches several rows')).toBeVisible();
  await dialog.getByRole('button', { name: 'Keep it' }).click();
  await expect(step(page, 2)).toContainText('2 rows matched several of Table 1 and were duplicated: H');
  await page.getByRole('tab', { name: 'Table 1' }).click();
  await expect(page.getByText(/after step 2 · 4 rows × 3 columns/)).toBeVisible();
  for (let k = 0; k < 3; k++) await page.keyboard.press('Control+z');
  await expect(page.getByRole('tab', { name: 'Table 2' })).toHaveCount(0);
});

test('a table past what a browser page can hold is walked to its end and back', async ({ page }) => {
  const rows = 2_400_000;
  await page.goto('/');
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByRole('button', { name: 'New job from a file' }).click(),
  ]);
  await chooser.setFiles({
    name: 'tall.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(Array.from({ length: rows }, (_, r) => r % 10_000).join('\n')),
  });
  await expect(page.getByText('after step 1 · 2,400,000 rows')).toBeVisible({ timeout: 30_000 });
  await tidy(page).focus();
  await page.keyboard.press('Control+End');
  await expect(tidy(page).locator(`[data-cell="${rows - 1}:0"]`)).toHaveText('9999');
  await expect(tidy(page).locator(`[data-cell="${rows - 1}:0"]`)).toBeInViewport();
  await page.keyboard.press('Control+Home');
  await expect(tidy(page).locator('[data-cell="0:0"]')).toBeInViewport();
  // Scrolling past the end of the window that is laid out brings the rows behind it.
  await tidy(page).evaluate((grid) => grid.scrollTo({ top: 24 * 1_000_000 }));
  await expect(tidy(page).locator('[data-cell="1000001:0"]')).toBeAttached();
  await tidy(page).hover();
  await page.mouse.wheel(0, 1200);
  await expect(tidy(page).locator('[data-cell="1000030:0"]')).toBeAttached();
});
