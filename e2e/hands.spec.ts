import { expect, type Page } from '@playwright/test';
import {
  act,
  dropFile,
  expectAccessible,
  openDemo,
  report,
  selectColumns,
  selectStep,
  step,
  still,
  test,
  tidy,
  WORKBOOK,
} from './bench.ts';
import { dragOver, Hands } from './hands.ts';

const selectText = (page: Page, key: string, text: string) =>
  dragOver(page, tidy(page).locator(`[data-cell="${key}"]`), text);

test.describe('the tape', () => {
  test('a marked row offers its rule with all rows that follow it; taken, it is a step, and the marks show it', async ({
    page,
  }) => {
    await page.goto('/');
    await dropFile(page, WORKBOOK);
    await expect(page.getByText('107 rows × 10 columns').first()).toBeVisible();
    await report(page)
      .getByRole('button', { name: /^Row 11:/ })
      .click();
    await page.getByRole('radio', { name: 'total', exact: true }).click();
    const rule = page.getByRole('list', { name: 'Rules' }).getByRole('button').first();
    await expect(rule).toHaveText('A ends with total16 rows');
    await rule.hover();
    await expect(page.getByText('A ends with total: 91 rows × 10 columns, not taken yet')).toBeVisible();
    await rule.click();
    await expect(step(page, 2)).toContainText('Set aside as totals: rows where A ends with total');
    await expect(report(page).getByRole('button', { name: 'Row 17, total: say what it is' })).toBeVisible();

    await report(page)
      .getByRole('button', { name: /^Row 17,/ })
      .click();
    await page.getByRole('radio', { name: 'note' }).click();
    await expect(step(page, 2)).toContainText('Set aside as notes');
    await report(page)
      .getByRole('button', { name: /^Row 17,/ })
      .click();
    await page.getByRole('button', { name: 'They are data: take the step away' }).click();
    await expect(page.getByText('after step 1 · 107 rows')).toBeVisible();
    await page.keyboard.press('Control+z');
    await expect(step(page, 2)).toContainText('notes');
  });

  test('titles, header, labels, totals and notes of the workbook, by pointing alone', async ({ page }) => {
    await page.goto('/');
    await dropFile(page, WORKBOOK);
    await expect(page.getByText('107 rows × 10 columns').first()).toBeVisible();
    await new Hands(page).mark(4, 'header');
    await new Hands(page).mark(11, 'total');
    await new Hands(page).mark(6, 'label', /^only/);
    await expect(step(page, 4)).toContainText('Carry Label down');
    await expect(report(page).getByRole('button', { name: /^Row 12, label/ })).toBeVisible();
  });

  test('rows of a print-out are marked on its lines', async ({ page }) => {
    await page.goto('/');
    await dropFile(page, 'demo/files/weighbridge.prn');
    await new Hands(page).mark(4, 'header');
    await expect(step(page, 2)).toContainText('A is TICKET');
    await expect(report(page).getByRole('button', { name: /^Row 23, repeat/ })).toBeVisible();
  });
});

test.describe('what is selected', () => {
  test('a sign in a cell offers splits with their outcome in sight; a word offers to be extracted', async ({
    page,
  }) => {
    await page.goto('/');
    await page.getByRole('button', { name: 'Packed manifest' }).click();
    await selectStep(page, 3);
    await page.getByText('after step 3 ·').waitFor();
    await selectText(page, '0:3', '|');
    const bar = page.getByRole('toolbar', { name: 'Actions for what is selected' });
    await bar.getByRole('button', { name: 'Split at | into 4 columns' }).hover();
    await expect(page.getByText(/into 4 columns: \d+ rows × 7 columns, not taken yet/)).toBeVisible();
    await page.mouse.move(640, 500);
    await expect(page.getByText('after step 3 ·')).toBeVisible();
    await selectText(page, '0:0', (await tidy(page).locator('[data-cell="0:0"]').textContent())!.slice(0, 2));
    await bar.getByRole('button', { name: /^Extract by \{Voyage piece\}-/ }).click();
    await expect(step(page, 4)).toContainText('Voyage piece');
  });

  test('a value is kept, replaced or set aside; a blank is filled; a rectangle is copied', async ({
    page,
    context,
  }) => {
    await context.grantPermissions(['clipboard-read', 'clipboard-write']);
    await openDemo(page);
    await tidy(page).locator('[data-cell="0:3"]').click();
    await act(page, 'Keep rows like this');
    await expect(step(page, 11)).toContainText('Keep rows where Month is April');
    await page.keyboard.press('Control+z');
    await tidy(page).locator('[data-cell="0:1"]').hover();
    await page.mouse.down();
    await tidy(page).locator('[data-cell="2:3"]').hover();
    await page.mouse.up();
    await page.getByRole('button', { name: 'Copy with names' }).click();
    await expect
      .poll(() => page.evaluate(() => navigator.clipboard.readText()))
      .toBe(
        'Route\tSailing\tMonth\nHask to Ullin\t08:50\tApril\nHask to Ullin\t08:50\tMay\nHask to Ullin\t08:50\tJune',
      );
  });

  test('a glance shows what a column holds; a value leads to its rows and becomes a step', async ({ page }) => {
    await openDemo(page);
    await selectColumns(page, 'Month');
    await page.getByRole('button', { name: 'Glance', exact: true }).click();
    const glance = page.getByRole('complementary', { name: 'Glance at Month' });
    await expect(glance).toContainText('different3');
    await glance.getByRole('button', { name: /^May/ }).click();
    await expect(glance).toContainText('39 rows lit');
    await glance.getByRole('button', { name: 'Keep only these' }).click();
    await expect(step(page, 11)).toContainText('Month is May');
    await expect(page.getByText('after step 11 · 39 rows')).toBeVisible();
    await page.getByRole('button', { name: 'chart' }).click();
    await expect(page.getByRole('figure', { name: 'Foot passengers over Port' })).toBeVisible();
  });

  test('find counts and jumps, in the table and in the report', async ({ page }) => {
    await openDemo(page);
    await page.keyboard.press('Control+f');
    const find = page.getByRole('search');
    await find.getByRole('textbox', { name: 'Find' }).fill('tarve to');
    await expect(find).toContainText('1 of 27');
    await page.keyboard.press('Enter');
    await expect(find).toContainText('2 of 27');
    await find.getByRole('combobox', { name: 'Where' }).click();
    await page.getByRole('option', { name: 'in the report' }).click();
    await expect(find).toContainText(/1 of \d|nothing found/);
    await page.keyboard.press('Escape');
    await expect(find).toBeHidden();
  });
});

test.describe('sentences and sheets', () => {
  test('a crosswalk is pasted as two columns', async ({ page, context }) => {
    await context.grantPermissions(['clipboard-read', 'clipboard-write']);
    await openDemo(page);
    await tidy(page).locator('[data-cell="0:3"]').click();
    await act(page, 'Recode');
    await step(page, 11)
      .getByRole('button', { name: /^Crosswalk:/ })
      .click();
    const editor = page.getByRole('dialog', { name: 'Crosswalk' });
    await page.evaluate(() => navigator.clipboard.writeText('April\t2031-04\nMay\t2031-05\nJune\t2031-06'));
    await editor.getByRole('textbox', { name: 'Code' }).focus();
    await page.keyboard.press('Control+v');
    await expect(editor.getByText('3 taken')).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(tidy(page).locator('[data-cell="1:3"]')).toHaveText('2031-05');
  });

  test('a column is made wider by its edge', async ({ page }) => {
    await openDemo(page);
    const head = tidy(page).getByRole('columnheader').filter({ hasText: 'Route' });
    const before = (await head.boundingBox())!;
    await page.mouse.move(before.x + before.width - 2, before.y + 20);
    await page.mouse.down();
    await page.mouse.move(before.x + before.width + 58, before.y + 20, { steps: 4 });
    await page.mouse.up();
    expect((await head.boundingBox())!.width).toBeCloseTo(before.width + 60, -1);
  });
});

test.describe('methods', () => {
  test('steps are moved by key and by drag, muted, duplicated, named and annotated; every edit is undone by name', async ({
    page,
  }) => {
    await openDemo(page);
    await selectStep(page, 3);
    await page.keyboard.press('m');
    await expect(step(page, 3)).toContainText('skipped');
    await page.keyboard.press('m');
    await page.keyboard.press('Alt+ArrowDown');
    await expect(step(page, 4)).toContainText('blanks');
    const [from, to] = [step(page, 4).locator('span').first(), step(page, 3).locator('span').first()];
    const [a, b] = [(await from.boundingBox())!, (await to.boundingBox())!];
    await page.mouse.move(a.x + 8, a.y + 8);
    await page.mouse.down();
    await page.mouse.move(a.x + 8, a.y - 10, { steps: 4 });
    await page.mouse.move(b.x + 8, b.y + 4, { steps: 8 });
    await page.mouse.up();
    await expect(step(page, 3)).toContainText('blanks');
    await selectStep(page, 3);
    await page.getByRole('button', { name: 'More about step 3' }).click();
    await page.getByRole('menuitem', { name: 'Write a note' }).click();
    await page.getByRole('textbox', { name: 'Note on step 3' }).fill('the print leaves gaps');
    await page.keyboard.press('Enter');
    await expect(step(page, 3)).toContainText('the print leaves gaps');
    await page.getByRole('button', { name: 'Undo' }).hover();
    await expect(page.getByText('Undo: note on step 3 (Ctrl Z)')).toBeVisible();
    await selectStep(page, 3);
    await page.keyboard.press('d');
    await expect(page.getByText('11 steps')).toBeVisible();
  });

  test('steps are copied as text and pasted into another job; what leans on a removed step is reported', async ({
    page,
    context,
  }) => {
    await context.grantPermissions(['clipboard-read', 'clipboard-write']);
    await openDemo(page);
    await selectStep(page, 5);
    await page.keyboard.press('Control+c');
    await expect(page.getByText('The step is copied')).toBeVisible();
    await page.keyboard.press('Delete');
    await expect(page.getByText(/Step 5 is removed; steps? .* used what it brought/)).toBeVisible();
    await page.keyboard.press('Control+z');
    await page.getByRole('link', { name: 'Rimefield' }).click();
    await dropFile(page, WORKBOOK);
    await page.getByRole('button', { name: 'Start a new job' }).click();
    await expect(page.getByText('107 rows × 10 columns').first()).toBeVisible();
    await selectStep(page, 1);
    await page.keyboard.press('Control+v');
    await expect(step(page, 2)).toContainText('Carry Route down');
  });

  test('a step is compared before and after', async ({ page }) => {
    await openDemo(page);
    await selectStep(page, 6);
    await page.getByRole('button', { name: 'More about step 6' }).click();
    await page.getByRole('menuitem', { name: 'Compare before and after' }).click();
    await expect(step(page, 6)).toContainText('16 rows removed');
  });

  test('a sheet of keys, and pages by key', async ({ page }) => {
    await openDemo(page);
    await page.keyboard.press('?');
    await expect(page.getByRole('dialog').getByText('Skip it, or run it again')).toBeVisible();
    await page.keyboard.press('Escape');
    await page.keyboard.press('F6');
    await page.keyboard.press('F6');
    await page.keyboard.press('F6');
    await expect(tidy(page)).toBeFocused();
  });
});

test.describe('the shelf', () => {
  test('jobs are renamed, duplicated and say how their last run went', async ({ page }) => {
    await openDemo(page);
    await expect(page.getByText(/^saved \d/)).toBeVisible();
    await page.getByRole('link', { name: 'Rimefield' }).click();
    await expect(page.getByRole('listitem').filter({ hasText: '117 rows' })).toBeVisible();
    await page.getByRole('button', { name: 'Duplicate Quay returns, quarterly' }).click();
    await page.getByRole('link', { name: 'Quay returns, quarterly, copy' }).focus();
    await page.keyboard.press('F2');
    await page.getByRole('textbox', { name: /^New name of/ }).fill('Spring');
    await page.keyboard.press('Enter');
    await page.getByRole('link', { name: 'Spring' }).click();
    await expect(page.getByText('after step 10 · 117 rows')).toBeVisible();
  });

  test('two tabs on one job follow each other', async ({ page, context }) => {
    await openDemo(page);
    const other = await context.newPage();
    await other.goto(page.url());
    await expect(other.getByText('after step 10 · 117 rows')).toBeVisible();
    await page.getByRole('textbox', { name: 'Name of the job' }).fill('Followed');
    await expect(other.getByRole('textbox', { name: 'Name of the job' })).toHaveValue('Followed');
    await selectStep(other, 10);
    await other.keyboard.press('Delete');
    await expect(page.getByText('9 steps')).toBeVisible();
  });
});

test.describe('WCAG 2.2 AA by axe', () => {
  for (const scheme of ['light', 'dark'] as const) {
    test(`shelf and bench, ${scheme}`, async ({ page }) => {
      test.setTimeout(150_000);
      await page.emulateMedia({ colorScheme: scheme, reducedMotion: 'reduce' });
      await page.goto('/');
      await expectAccessible(page, 'shelf');
      await openDemo(page);
      await selectColumns(page, 'Month');
      await page.getByRole('button', { name: 'Glance', exact: true }).click();
      await page.getByRole('complementary').waitFor();
      await expectAccessible(page, 'bench');
      for (const name of [
        'Weighbridge print-out',
        'Crossings, printed',
        'Gate log',
        'Sailing records',
        'Booking export',
      ]) {
        await page.goto('/');
        await page.getByRole('button', { name }).click();
        await page.getByText(/after step \d+ ·/).waitFor();
        await still(tidy(page));
        await expectAccessible(page, name);
      }
    });
  }
});
