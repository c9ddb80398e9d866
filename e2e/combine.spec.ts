import { readFileSync } from 'node:fs';
import { expect, type Page } from '@playwright/test';
import { ACTIONS } from './actions.ts';
import { dropFile, exportText, openBlank, step, test, tidy } from './bench.ts';
import { Hands } from './hands.ts';

class TableHands extends Hands {
  async tab(name: string): Promise<void> {
    await this.page.getByRole('tab', { name, exact: true }).click();
    this.count++;
  }

  async more(entry: RegExp): Promise<void> {
    await this.page.getByRole('button', { name: 'More about tables' }).click();
    await this.page.getByRole('menuitem', { name: entry }).click();
    this.count += 2;
  }

  async nameTable(from: string, to: string): Promise<void> {
    await this.page.getByRole('tab', { name: from, exact: true }).dblclick();
    await this.page.getByRole('textbox', { name: 'Name of the table' }).fill(to);
    await this.page.keyboard.press('Enter');
    this.count += 2;
  }

  /** Opens the dialog of a step that combines tables. */
  async combine(letters: string, name: string) {
    await this.page.keyboard.press('/');
    await this.page.getByRole('combobox', { name: 'What next?' }).fill(letters);
    await this.page.keyboard.press('Enter');
    this.count += 2;
    return this.page.getByRole('dialog', { name });
  }
}

async function matches(page: Page, name: string, truth: string, hands: Hands) {
  await expect(page.getByText('0 unreadable', { exact: true })).toBeVisible();
  expect(await exportText(page, 'Tidy table as CSV')).toBe(readFileSync(`demo/truth/${truth}.csv`, 'utf8'));
  expect(hands.count, 'actions; if it is fewer now, write it down').toBe(ACTIONS[name]);
}

test('plan against outturn, from the dropped file to its truth', async ({ page }) => {
  test.setTimeout(120_000);
  await page.goto('/');
  await dropFile(page, 'demo/files/plan-outturn.xlsx');
  const hands = new TableHands(page);
  await hands.settled(1);
  const only = async (name: string) => {
    await page.getByRole('button', { name: `Read only ${name}` }).click();
    hands.count++;
    await expect(step(page, 1)).toContainText(`Read sheets ${name}`);
  };
  await only('Plan');
  await hands.step('header');
  await hands.step('blank rows');
  await hands.select('Notes');
  await hands.take('Set aside as notes');
  await hands.step('unpivot');
  await hands.rename('Value', 'Plan');
  await hands.step('set types');
  await hands.nameTable('Table 1', 'Plan');

  await hands.more(/from the same report/);
  await hands.settled(1);
  await page.getByRole('tab', { name: 'Outturn' }).click();
  hands.count++;
  await only('Outturn');
  await hands.step('header');
  await hands.mark(39, 'total');
  await hands.rename('Amount', 'Outturn');
  await hands.step('set types');
  await hands.nameTable('Table 2', 'Outturn of 2031');

  await page.getByRole('tablist', { name: 'Tables' }).getByRole('tab', { name: 'Plan' }).click();
  hands.count++;
  await hands.more(/^New table from Plan/);
  await hands.settled(1);
  const dialog = await hands.combine('join a table', 'Join a table');
  await expect(dialog.getByText('24 of 36 match').first()).toBeVisible();
  await expect(dialog.getByRole('region', { name: 'Unmatched in this table' })).toContainText(
    'Harbour dues · Jan nearly Harbourdues · Jan',
  );
  await dialog.getByRole('button', { name: /^ignoring blanks, case and accents/ }).click();
  await expect(dialog.getByText('36 of 36 match').first()).toBeVisible();
  await dialog.getByRole('button', { name: 'Keep it' }).click();
  hands.count += 2;
  await hands.settled(2);
  await expect(step(page, 2)).toContainText('36 of 36 rows match');
  await hands.step('variance');
  await expect(step(page, 3)).toContainText('6 rows are 10 % or more off Plan');
  await matches(page, 'plan-outturn', 'plan-outturn', hands);
});

test('targets against bookings, from the dropped files to their truth', async ({ page }) => {
  test.setTimeout(120_000);
  await page.goto('/');
  await dropFile(page, 'demo/files/targets-2030.xlsx');
  const hands = new TableHands(page);
  await hands.settled(1);
  await hands.step('header');
  await hands.selectTo('Q1', 'Q4');
  await hands.take('Unpivot');
  await hands.renameFrom('Name', 'Quarter', 'Target');
  await hands.step('set types');

  await dropFile(page, 'demo/files/bookings-2030.csv');
  await page.getByRole('button', { name: /^Add it to this job/ }).click();
  hands.count++;
  await hands.settled(1);
  await hands.step('header');
  await hands.select('Type');
  await hands.take('Recode');
  const crosswalk = await openBlank(page, 3, 'Crosswalk');
  const fields = crosswalk.getByRole('textbox');
  await fields.nth(1).fill('Foot');
  await fields.nth(3).fill('Vehicles');
  await crosswalk.getByRole('button', { name: 'Done' }).click();
  hands.count += 2;
  await hands.step('set types');
  await hands.step('expression');
  await hands.blank(5, 'Column for the result', 'Quarter');
  await hands.blank(5, 'Expression', `'Q' || extract(quarter from "Date")`);
  await hands.select('Berth', 'Type', 'Quarter');
  await hands.take('Group by');
  await hands.rename('Booked', 'Actual');

  await page.getByRole('tablist', { name: 'Tables' }).getByRole('tab').first().click();
  hands.count++;
  await hands.more(/^New table from Table 1/);
  await hands.settled(1);
  const dialog = await hands.combine('join a table', 'Join a table');
  // Keys are guessed from names and from the values that meet.
  await expect(dialog.getByText('64 of 64 match').first()).toBeVisible();
  await expect(dialog.getByText('no row matches several')).toBeVisible();
  await dialog.getByRole('button', { name: 'Keep it' }).click();
  hands.count++;
  await hands.settled(2);
  await hands.step('variance');
  await matches(page, 'targets', 'targets-2030', hands);

  await page.getByRole('link', { name: 'Map' }).click();
  await expect(page.getByRole('listitem').filter({ hasText: 'bookings-2030.csv' })).toBeVisible();
  await expect(page.getByText('64 rows × 7 columns, 3 steps')).toBeVisible();
  await page.getByRole('button', { name: 'joins it' }).click();
  await expect(step(page, 2)).toHaveAttribute('aria-current', 'step');
});

const TWO = { a: 'Berth;Foot passengers\nH1;5\nH2;7\n', b: 'Berth;Foot passenger;Remark\nT1;9;x\n' };

async function twoTables(page: Page): Promise<void> {
  await page.goto('/');
  const put = (name: string, text: string) => ({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByRole('button', { name: 'New job from a file' }).click(),
  ]);
  await chooser.setFiles(put('spring.csv', TWO.a));
  await expect(page.getByText(/after step 1 ·/)).toBeVisible();
  await page.getByRole('button', { name: 'More about tables' }).click();
  const [second] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByRole('menuitem', { name: 'New table from another file' }).click(),
  ]);
  await second.setFiles(put('summer.csv', TWO.b));
  await expect(page.getByRole('tab', { name: 'summer' })).toHaveAttribute('aria-selected', 'true');
}

test('appending lines up columns that are called a little differently, and one can be left out', async ({ page }) => {
  await twoTables(page);
  const hands = new TableHands(page);
  await hands.step('header');
  await hands.tab('Table 1');
  await hands.step('header');
  const dialog = await hands.combine('append', 'Append tables');
  await expect(dialog.getByRole('combobox', { name: 'Column of summer under Foot passengers' })).toHaveText(
    'Foot passenger',
  );
  await dialog.getByRole('button', { name: 'leave out' }).click();
  await dialog.getByRole('textbox', { name: 'no column' }).fill('Season');
  await dialog.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByText('after step 3 · 3 rows × 3 columns')).toBeVisible();
  await expect(tidy(page).locator('[data-cell="2:2"]')).toHaveText('9');
  await page.keyboard.press('Control+z');
  await expect(page.getByText('after step 2 · 2 rows × 2 columns')).toBeVisible();
});

test('a look-up, a split-off and a set of steps used by two tables', async ({ page }) => {
  await twoTables(page);
  const hands = new TableHands(page);
  await hands.step('header');
  await hands.step('set types');
  await page.getByRole('button', { name: 'More about step 2' }).click();
  await page.getByRole('menuitem', { name: 'Keep from here on as a set' }).click();
  await expect(step(page, 2)).toContainText('Do Steps of summer');
  await expect(step(page, 2)).toContainText('Header from 1 row');
  await hands.tab('Table 1');
  await page.keyboard.press('/');
  await page.getByRole('combobox', { name: 'What next?' }).fill('steps of summer');
  await page.keyboard.press('Enter');
  await expect(step(page, 2)).toContainText(/Step 2 of the set: There is no column/);
  await page.keyboard.press('Control+z');
  await hands.step('header from');
  const split = await hands.combine('split off', 'Split off columns');
  await expect(split.getByText('always')).toBeVisible();
  await split.getByRole('button', { name: 'Split off into a table' }).click();
  await expect(page.getByText('after step 3 · 2 rows × 1 columns')).toBeVisible();
  await hands.tab('Berth');
  await expect(page.getByText('after step 2 · 2 rows × 2 columns')).toBeVisible();
  await hands.tab('Table 1');
  const look = await hands.combine('look up', 'Look up in another table');
  await look.getByRole('combobox', { name: 'Other table' }).click();
  await page.getByRole('option', { name: 'Berth' }).click();
  await expect(look.getByText('2 of 2 match').first()).toBeVisible();
  await look.getByRole('button', { name: 'Keep it' }).click();
  // The other table starts from this one before the step, so there is no circle.
  await expect(page.getByText('after step 4 · 2 rows × 2 columns')).toBeVisible();
});
