import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from '@playwright/test';
import {
  act,
  addStep,
  choose,
  done,
  dropFile,
  exportText,
  fillBlank,
  openBlank,
  openDemo,
  report,
  selectColumns,
  selectStep,
  step,
  TRUTH,
  test,
  tidy,
  WORKBOOK,
} from './bench.ts';

test('the whole method by hand, from the dropped workbook to the truth, and the same bytes by command line', async ({
  page,
}) => {
  await page.goto('/');
  await dropFile(page, WORKBOOK);
  await expect(page.getByText('107 rows × 10 columns').first()).toBeVisible();
  await fillBlank(page, 1, "Column for the sheet's name", 'Port');

  await addStep(page, 'header');
  // Tiers and place of the header are guessed from the sheets.
  await expect(step(page, 2)).toContainText('2 rows where A is Sailing');
  await expect(step(page, 2)).toContainText('−28 rows');

  await addStep(page, 'blank rows');
  await expect(step(page, 3)).toContainText('−8 rows');

  await addStep(page, 'set aside');
  await fillBlank(page, 4, 'Name of the pile', 'notes');
  let editor = await openBlank(page, 4, 'Rows to set aside');
  await choose(page, editor, 'Which rows', 'all below the last row where');
  await choose(page, editor, 'Test', 'ends with');
  await choose(page, editor, 'Column', 'Sailing');
  await editor.getByRole('textbox', { name: 'Text' }).fill('total');
  await choose(page, editor, 'Searched in each', 'Port');
  await done(editor);
  await expect(step(page, 4)).toContainText('−4 rows');

  await addStep(page, 'route');
  await fillBlank(page, 5, 'Name of the new column', 'Route');
  await expect(step(page, 5)).toContainText('12 labels carried onto 55 rows');

  await selectColumns(page, 'Sailing');
  await addStep(page, 'totals');
  await expect(step(page, 6)).toContainText('−16 rows · for the tally');

  await selectColumns(page, 'Quarter / Foot', 'Quarter / Vehicles');
  await act(page, 'Drop');
  await expect(step(page, 7)).toContainText('−2 columns');

  await addStep(page, 'unpivot');
  editor = await openBlank(page, 8, 'What the parts of the names become');
  await editor.getByRole('textbox', { name: 'Name of part 1' }).fill('Month');
  await done(editor);
  await expect(step(page, 8)).toContainText('117 rows × 6');

  await selectColumns(page, 'Sailing', 'Foot', 'Vehicles');
  await act(page, 'Set type');
  await expect(step(page, 9)).toContainText('351 values read, 0 unreadable');

  await selectColumns(page, 'Foot');
  await act(page, 'Rename');
  editor = await openBlank(page, 10, 'Old and new names');
  await editor.getByRole('textbox', { name: 'New name' }).fill('Foot passengers');
  await done(editor);
  await expect(tidy(page).getByText('Foot passengers')).toBeVisible();

  const csv = await exportText(page, 'Tidy table as CSV');
  expect(csv.split('\r\n').map((line) => line.split(','))).toEqual(TRUTH.split('\r\n').map((line) => line.split(',')));

  const folder = mkdtempSync(join(tmpdir(), 'rimefield-e2e-'));
  const jobFile = join(folder, 'by-hand.job.json');
  writeFileSync(jobFile, await exportText(page, 'Job file'));
  const ran = spawnSync(process.execPath, [
    '--import',
    'tsx',
    'service/cli.ts',
    'run',
    jobFile,
    '--source',
    `quay-returns-q2=${WORKBOOK}`,
    '--out',
    '-',
  ]);
  // The totals of the quarter, whose columns were dropped and not set aside as totals, are reported and nothing else is.
  const lines = ran.stderr.toString().trim().split('\n');
  expect(lines).toHaveLength(32);
  for (const line of lines)
    expect(line).toMatch(/^rimefield: \w+![HI]\d+ says \d+, the table adds to 0\. .* taken out by step 7\.$/);
  expect(ran.stdout.toString()).toBe(csv);
});

test('a reload finds all as it was left', async ({ page }) => {
  await openDemo(page);
  await page.getByRole('textbox', { name: 'Name of the job' }).fill('Returns of spring');
  await fillBlank(page, 5, 'Name of the new column', 'Line');
  await expect(page.getByText(/^saved \d/)).toBeVisible();
  await page.reload();
  await expect(page.getByRole('textbox', { name: 'Name of the job' })).toHaveValue('Returns of spring');
  await expect(page.getByText('There is no column Route')).toBeVisible();
  await fillBlank(page, 5, 'Name of the new column', 'Route');
  expect(await exportText(page, 'Tidy table as CSV')).toBe(TRUTH);
  await page.getByRole('link', { name: 'Rimefield' }).click();
  await expect(page.getByRole('link', { name: 'Returns of spring' })).toBeVisible();
});

test('a saved job file opens in a fresh profile, takes the workbook and gives the same table', async ({
  page,
  browser,
}) => {
  await openDemo(page);
  const jobFile = join(mkdtempSync(join(tmpdir(), 'rimefield-e2e-')), 'saved.job.json');
  writeFileSync(jobFile, await exportText(page, 'Job file'));

  const elsewhere = await (await browser.newContext()).newPage();
  await elsewhere.goto('/');
  await expect(elsewhere.getByText('None yet.')).toBeVisible();
  await dropFile(elsewhere, jobFile);
  await expect(elsewhere.getByText('quay-returns-q2.xlsx is not in this browser.')).toBeVisible();
  const [chooser] = await Promise.all([
    elsewhere.waitForEvent('filechooser'),
    elsewhere.getByRole('button', { name: 'Give quay-returns-q2.xlsx' }).click(),
  ]);
  await chooser.setFiles(WORKBOOK);
  await expect(elsewhere.getByText('after step 10 · 117 rows × 6 columns')).toBeVisible();
  expect(await exportText(elsewhere, 'Tidy table as CSV')).toBe(TRUTH);
});

test('pointing at a tidy cell lights the cell of the report, and the other way round', async ({ page }) => {
  await openDemo(page);
  await tidy(page).locator('[data-cell="4:4"]').hover();
  const source = report(page).locator('[data-cell="7:3"]');
  await expect(source).toHaveClass(/lit/);
  await expect(page.getByRole('contentinfo')).toContainText('came from Hask!D8');
  expect((await source.textContent())!.replace(',', '')).toBe(
    await tidy(page).locator('[data-cell="4:4"]').textContent(),
  );

  await report(page).locator('[data-cell="12:1"]').hover();
  await expect(page.getByRole('contentinfo')).toContainText('in Hask!B13 is one cell of the table');
  await expect(tidy(page).locator('[data-cell="12:4"]')).toHaveClass(/lit/);

  // A label lights every row that it was carried onto; a total is in no cell of the table.
  await report(page).locator('[data-cell="5:0"]').hover();
  await expect(page.getByRole('contentinfo')).toContainText('is in 12 cells of the table');
  await report(page).getByText('Route total').first().hover();
  await expect(page.getByRole('contentinfo')).toContainText('is not in the table');

  // Picking a cell of another port brings its sheet into sight.
  await tidy(page).focus();
  await page.keyboard.press('Control+End');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('tab', { name: 'Tarve' })).toHaveAttribute('aria-selected', 'true');
});

test('steps: look back, face the step before, delete, undo, redo, and a stop that is fixed', async ({ page }) => {
  await openDemo(page);
  await selectStep(page, 6);
  await expect(page.getByText('after step 6 · 39 rows × 11 columns')).toBeVisible();
  await page.getByRole('button', { name: 'step before' }).click();
  await expect(page.getByRole('grid', { name: 'Table before the step' })).toHaveAttribute('aria-rowcount', '56');
  await page.getByRole('button', { name: 'the report' }).click();

  await step(page, 5).focus();
  await page.keyboard.press('Delete');
  await expect(page.getByText('There is no column Route. The columns are Port, Sailing')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByText('There is no column Route')).toBeHidden();
  await page.getByRole('button', { name: 'Redo' }).click();
  await expect(page.getByText('There is no column Route')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await selectStep(page, 10);
  await expect(page.getByText('after step 10 · 117 rows × 6 columns')).toBeVisible();
});

test('a comment of the report is shown on its cell, and merged cells stand as one', async ({ page }) => {
  await openDemo(page);
  await expect(report(page).getByTitle('Quay office: Second sailing on 11 and 18 May')).toBeVisible();
  const april = report(page).locator('[data-cell="3:1"]');
  await expect(april).toHaveText('April');
  await expect(report(page).locator('[data-cell="3:2"]')).toHaveCount(0);
});

test('what cannot be read is reported, and nothing is changed', async ({ page }) => {
  const folder = mkdtempSync(join(tmpdir(), 'rimefield-e2e-'));
  const put = (name: string, data: string | Buffer) => {
    writeFileSync(join(folder, name), data);
    return join(folder, name);
  };
  // Beside it may stand what takes long.
  const told = (text: string) => expect(page.getByRole('alert').filter({ hasText: text })).toBeVisible();
  await page.goto('/');
  await dropFile(page, put('empty.csv', ''));
  await told('empty.csv is empty');
  await dropFile(page, put('cut.xlsx', readFileSync(WORKBOOK).subarray(0, 5000)));
  await told('damaged or cut off');
  await dropFile(page, put('future.job.json', '{"rimefield":"job","version":99}'));
  await told('saved as version 99');
  await dropFile(page, put('half.json', '{"rimefield":'));
  await told('not a job file, or it is cut off');
  await expect(page.getByText('None yet.')).toBeVisible();
});

test('when the browser refuses to store, it says so and offers the job file', async ({ page }) => {
  await page.addInitScript(() => {
    IDBObjectStore.prototype.put = () => {
      throw new DOMException('The quota has been exceeded', 'QuotaExceededError');
    };
  });
  await page.goto('/');
  await dropFile(page, WORKBOOK);
  await expect(page.getByRole('alert').filter({ hasText: 'could not store' })).toContainText(
    /could not store quay.+: its storage is full\./,
  );
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save the job file' }).click(),
  ]);
  expect(readFileSync((await download.path())!, 'utf8')).toContain('"rimefield": "job"');
  await expect(page.getByText('107 rows × 10 columns').first()).toBeVisible();
});

test('next month: another file runs through the same method; a removed job comes back by undo', async ({ page }) => {
  await openDemo(page);
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByRole('button', { name: 'Run again' }).click(),
  ]);
  await chooser.setFiles({ name: 'returns.csv', mimeType: 'text/csv', buffer: Buffer.from('Sailing,Foot\n07:10,5\n') });
  const again = page.getByRole('dialog', { name: 'Run again' });
  await expect(again).toContainText('step 1 stops: returns.csv');
  await again.getByRole('button', { name: 'Use this file' }).click();
  await expect(page.getByRole('region', { name: 'Method' }).getByRole('alert')).toContainText('returns.csv');
  await page.keyboard.press('Escape');
  await page.getByRole('link', { name: 'Rimefield' }).click();
  await page.getByRole('button', { name: 'Remove Quay returns, quarterly' }).click();
  await expect(page.getByText('None yet.')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('link', { name: 'Quay returns, quarterly' })).toBeVisible();
});

test('the next report is looked at before it is taken: a renamed column is fixed in one action', async ({ page }) => {
  await page.goto('/');
  const put = (name: string, text: string) => ({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });
  const [first] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByRole('button', { name: 'New job from a file' }).click(),
  ]);
  await first.setFiles(put('spring.csv', 'Quay;Foot\nHask;5\nUllin;7\n'));
  await expect(page.getByText(/after step 1 ·/)).toBeVisible();
  await addStep(page, 'header');
  await expect(page.getByText(/after step 2 ·/)).toBeVisible();
  await selectColumns(page, 'Foot');
  await act(page, 'Set type');
  await expect(page.getByText(/after step 3 ·/)).toBeVisible();
  const again = async (name: string, text: string) => {
    const [chooser] = await Promise.all([
      page.waitForEvent('filechooser'),
      page.getByRole('button', { name: 'Run again' }).click(),
    ]);
    await chooser.setFiles(put(name, text));
    return page.getByRole('dialog', { name: 'Run again' });
  };
  const summer = await again('summer.csv', 'Quay;Foot passengers\nHask;6\nTarve;7\nUllin;8\n');
  await expect(summer).toContainText('the column Foot is gone; Foot passengers is new and most alike');
  // Both methods, with what each step did to its report: the fix is a step more.
  const steps = summer.getByRole('table', { name: /^Steps of (?!the draft)/ });
  await expect(steps.getByRole('row').filter({ hasText: 'new' })).toContainText('Rename Foot passengers to Foot');
  await expect(steps.getByRole('row').last()).toContainText('2 rows × 2');
  await expect(steps.getByRole('row').last()).toContainText('3 rows × 2');
  await summer.getByRole('button', { name: 'Keep the current file' }).click();
  await expect(page.getByText('after step 3 · 2 rows')).toBeVisible();
  const once = await again('summer.csv', 'Quay;Foot passengers\nHask;6\nTarve;7\nUllin;8\n');
  await once.getByRole('button', { name: 'Use it with the fixes' }).click();
  await expect(page.getByText('after step 4 · 3 rows')).toBeVisible();
  await expect(step(page, 3)).toContainText('Rename Foot passengers to Foot');
});
