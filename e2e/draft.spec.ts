/** The draft on the bench: proposed, looked at, changed, kept or not. */
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, type Locator, type Page, test } from '@playwright/test';
import { strToU8, zipSync } from 'fflate';
import {
  dropBytes,
  dropFile,
  expectAccessible,
  exportText,
  openBlank,
  report,
  selectColumns,
  step,
  TRUTH,
  tidy,
  WORKBOOK,
} from './bench.ts';

const draft = (page: Page) => page.getByRole('region', { name: 'Draft' });
const findings = (page: Page) => page.getByRole('region', { name: 'Findings' });
const wanted = (page: Page) => page.getByRole('region', { name: 'Show the row you want' });

async function dropped(page: Page, file: string | { name: string; text: string }): Promise<void> {
  await page.goto('/');
  if (typeof file === 'string') await dropFile(page, file);
  else await dropBytes(page, strToU8(file.text), file.name);
  await stands(page);
}

/** The draft is there, whole. */
async function stands(page: Page): Promise<void> {
  await expect(draft(page).getByRole('button', { name: /^Keep all/ })).toBeEnabled({ timeout: 30_000 });
}

async function keepAll(page: Page): Promise<void> {
  // With Ctrl wherever the focus is.
  await page.keyboard.press('Control+Enter');
  await expect(draft(page)).toBeHidden();
}

const rowsOf = (csv: string) => csv.trim().split(/\r?\n/).length - 1;

/** Pastes as the system does when Ctrl V is pressed: what the page may read of the clipboard. */
async function paste(page: Page, what: Record<string, string>, on: Locator = page.locator('body')): Promise<void> {
  await on.evaluate((element, kinds) => {
    const data = new DataTransfer();
    for (const [kind, text] of Object.entries(kinds)) data.setData(kind, text);
    element.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
  }, what);
}

test.describe('a dropped report', () => {
  test('is drafted with its reasons; nothing is kept, exported or stored before it is; one undo takes it back', async ({
    page,
  }) => {
    await dropped(page, WORKBOOK);
    await expect(page.getByText('drafted, 8 steps, none kept yet')).toBeVisible();
    await expect(page.getByText('drafted · 117 rows × 6 columns')).toBeVisible();
    await expect(draft(page)).toContainText('206 of 206 totals agree with this draft');
    await expect(draft(page)).toContainText('Sure');
    await expect(step(page, 5)).toContainText('16 rows, each the sum of rows or of sums before it');
    await expect(report(page).getByRole('button', { name: 'Row 11, total: say what it is' })).toBeVisible();
    await expect(page.getByRole('contentinfo')).toContainText('206 of 206 totals');

    await page.getByRole('button', { name: 'Export' }).click();
    await expect(page.getByText('The draft is not kept yet: only the reading is exported.')).toBeVisible();
    await page.keyboard.press('Escape');
    expect(rowsOf(await exportText(page, 'Tidy table as CSV'))).toBe(107);
    const job = JSON.parse(await exportText(page, 'Job file'));
    expect(job.tables[0].steps).toHaveLength(1);

    await page.reload();
    await stands(page);
    expect(JSON.parse(await exportText(page, 'Job file')).tables[0].steps).toHaveLength(1);
    await keepAll(page);
    await expect(page.getByText('after step 9 · 117 rows × 6 columns')).toBeVisible();
    const kept = await exportText(page, 'Tidy table as CSV');
    expect(kept.split('\r\n').slice(1)).toEqual(TRUTH.split('\r\n').slice(1));

    await page.keyboard.press('Control+z');
    await stands(page);
    await expect(page.getByText('drafted, 8 steps, none kept yet')).toBeVisible();
    await page.getByRole('button', { name: 'Redo' }).click();
    await expect(page.getByText('after step 9 · 117 rows')).toBeVisible();
  });

  test('without a mouse, from the paste to the export, and said to a screen reader', async ({ page }) => {
    await page.goto('/');
    await expect(page.getByText('Or paste cells')).toBeVisible();
    await paste(page, { 'text/plain': 'Quay\tFoot\nHask\t5\nUllin\t7\nTarve\t9\nTotal\t21\n' });
    await stands(page);
    await expect(draft(page).getByRole('status')).toContainText('1 of 1 totals agree');
    await keepAll(page);
    await expect(page.getByText(/after step \d · 3 rows × 2 columns/)).toBeVisible();
    // Export stands last in the bar on top: a Tab away from the body, walking back.
    await page.getByRole('button', { name: 'Export' }).focus();
    await page.keyboard.press('Enter');
    const [download] = await Promise.all([page.waitForEvent('download'), page.keyboard.press('Enter')]);
    expect(readFileSync((await download.path())!, 'utf8')).toContain('Ullin,7');
  });

  test('Discard leaves the reading alone, also after a reload, until a draft is asked for', async ({ page }) => {
    await dropped(page, WORKBOOK);
    await page.keyboard.press('Escape');
    await expect(draft(page)).toBeHidden();
    await expect(page.getByText('after step 1 · 107 rows')).toBeVisible();
    await page.reload();
    await expect(page.getByText('after step 1 · 107 rows')).toBeVisible();
    await expect(draft(page)).toBeHidden();
    await page.getByRole('button', { name: 'Draft the steps' }).click();
    await stands(page);
    await page.getByRole('button', { name: 'More of the method' }).click();
    await page.getByRole('menuitemcheckbox', { name: 'Draft each new report automatically' }).click();
    await page.keyboard.press('Escape');
    await page.goto('/');
    await dropBytes(page, strToU8('Quay,Foot\nHask,5\nUllin,7\n'), 'quays.csv');
    await expect(page.getByText('after step 1 · 3 rows')).toBeVisible();
    await expect(page.getByRole('button', { name: 'Draft the steps' })).toBeVisible();
  });

  test('an archive gets one draft for all of its files, and the odd one is reported', async ({ page }) => {
    await page.goto('/');
    const month = (rows: string) => strToU8(`Quay,Foot\n${rows}\nTotal,12\n`);
    const files = {
      'arrivals-2031-01.csv': month('Hask,5\nUllin,7'),
      'arrivals-2031-02.csv': month('Hask,8\nTarve,4'),
      'arrivals-2031-03.csv': strToU8('Quay,Foot,Remark\nHask,9,late\nTotal,9,\n'),
    };
    await dropBytes(page, zipSync(files), 'arrivals.zip');
    await stands(page);
    await expect(step(page, 1)).toContainText('1 file with another number of columns');
    await keepAll(page);
    const csv = await exportText(page, 'Tidy table as CSV');
    expect(csv).toContain('2031-02,Tarve,4');
    expect(csv).toContain('2031-03,Hask,9,late');
    expect(csv).not.toContain('Total');
  });
});

test.describe('a draft that is changed', () => {
  test('kept up to a step; the others stay drafted, and are kept after it', async ({ page }) => {
    await dropped(page, WORKBOOK);
    await step(page, 4).hover();
    await step(page, 4).getByRole('button', { name: 'Keep to here' }).click();
    await expect(page.getByText('4 steps kept, 5 drafted')).toBeVisible();
    expect(JSON.parse(await exportText(page, 'Job file')).tables[0].steps).toHaveLength(4);
    await keepAll(page);
    await expect(page.getByText('after step 9 · 117 rows')).toBeVisible();
  });

  test('a step is left out, the rest drafted again; Ctrl Z brings it back', async ({ page }) => {
    await dropped(page, WORKBOOK);
    await expect(step(page, 7)).toContainText('Quarter /');
    await step(page, 7).hover();
    await page.getByRole('button', { name: 'Leave out step 7' }).click();
    await stands(page);
    await expect(page.getByRole('listitem').filter({ hasText: 'whose name starts with Quarter' })).toHaveCount(0);
    await page.keyboard.press('Control+z');
    await expect(step(page, 7)).toContainText('Quarter /');
    await keepAll(page);
    await expect(page.getByText('after step 9 · 117 rows')).toBeVisible();
  });

  test('a blank of a drafted step is changed, and what follows goes by it', async ({ page }) => {
    await dropped(page, WORKBOOK);
    const editor = await openBlank(page, 6, 'Name of the new column');
    await editor.getByRole('textbox').fill('Route');
    await editor.getByRole('button', { name: 'Done' }).click();
    await stands(page);
    await expect(tidy(page).getByText('Route', { exact: true })).toBeVisible();
    await expect(page.getByText(/^drafted · 39 rows × \d+ columns/)).toBeVisible();
    await expect(step(page, 8)).toContainText('Unpivot');
    expect(JSON.parse(await exportText(page, 'Job file')).tables[0].steps).toHaveLength(1);
    await keepAll(page);
    expect(await exportText(page, 'Tidy table as CSV')).toContain('Sheet,Route,Sailing');
  });

  test('another way is seen while it is pointed at, and taken by a click', async ({ page }) => {
    await dropped(page, WORKBOOK);
    const other = page.getByRole('button', { name: 'keep the columns' });
    await other.hover();
    await expect(page.getByText(/^Or keep the columns: \d+ rows × \d+ columns, not taken yet/)).toBeVisible();
    await page.mouse.move(640, 20);
    await expect(page.getByText('drafted · 117 rows × 6 columns')).toBeVisible();
    await other.click();
    await stands(page);
    await expect(page.getByText('drafted · 117 rows × 6 columns')).toBeHidden();
    await page.keyboard.press('Control+z');
    await expect(page.getByText('drafted · 117 rows × 6 columns')).toBeVisible();
  });

  test('a doubt is a whole sentence, and leads to the cell that it speaks of', async ({ page }) => {
    const rows = Array.from({ length: 60 }, (_, k) => `Quay ${k};${k === 49 ? '12 (3)' : `${7 * k} kg`}`);
    await dropped(page, { name: 'loads.csv', text: `Quay;Load\n${rows.join('\n')}\n` });
    const told = draft(page).getByRole('status');
    await expect(told).toContainText("Load (kg) contains numbers followed by text, such as '12 (3)'");
    // None of it is cut off.
    expect(
      await told.evaluate((box) => [...box.children].every((one) => one.scrollHeight <= one.clientHeight + 1)),
    ).toBe(true);
    await draft(page).getByRole('button', { name: 'Show the cell' }).click();
    await expect(tidy(page).getByText('12 (3)')).toBeInViewport();
  });

  test('pointing at a step lights what it speaks of on the report', async ({ page }) => {
    await dropped(page, WORKBOOK);
    const row = report(page).getByRole('row').filter({ hasText: 'Route total' }).first();
    await expect(row).not.toHaveClass(/rowLit/);
    await step(page, 5).hover();
    await expect(row).toHaveClass(/rowLit/);
    await page.mouse.move(640, 20);
    await expect(row).not.toHaveClass(/rowLit/);
  });

  test('what is done by hand on a drafted table keeps the draft with it', async ({ page }) => {
    await dropped(page, WORKBOOK);
    await tidy(page).getByRole('columnheader').filter({ hasText: 'Group' }).dblclick();
    await page.getByRole('textbox', { name: 'New name of Group' }).fill('Route');
    await page.keyboard.press('Enter');
    await expect(page.getByText('after step 10 · 117 rows')).toBeVisible();
    await expect(draft(page)).toBeHidden();
    await page.keyboard.press('Control+z');
    await stands(page);
  });

  test('an edit of the reading overtakes the draft', async ({ page }) => {
    await dropped(page, { name: 'quays.csv', text: 'Quay;Foot\nHask;5\nUllin;7\nTarve;9\n' });
    await expect(page.getByText('drafted · 3 rows × 2 columns')).toBeVisible();
    await page.getByRole('radio', { name: 'comma' }).click();
    await expect(page.getByText('drafted · 3 rows × 2 columns')).toBeHidden();
    await page.keyboard.press('Control+z');
    await stands(page);
    await expect(page.getByText('drafted · 3 rows × 2 columns')).toBeVisible();
  });

  test('a worker that breaks down while it drafts takes nothing with it', async ({ page }) => {
    // The worker that drafts breaks down when it is asked to, until it no longer should.
    await page.addInitScript(() => {
      const post = Worker.prototype.postMessage;
      Worker.prototype.postMessage = function (this: Worker, message: { path?: string[] }, ...more: never[]) {
        if (message?.path?.join('.') === 'drafts.make' && sessionStorage.getItem('whole') === null) {
          setTimeout(() => this.dispatchEvent(new ErrorEvent('error', { message: 'out of memory' })));
          return;
        }
        return post.call(this, message, ...more);
      };
    });
    await page.goto('/');
    await dropFile(page, WORKBOOK);
    await expect(page.getByText(/No draft was made. The calculation crashed/)).toBeVisible();
    await expect(page.getByText('after step 1 · 107 rows')).toBeVisible();
    expect(rowsOf(await exportText(page, 'Tidy table as CSV'))).toBe(107);
    await page.evaluate(() => sessionStorage.setItem('whole', 'yes'));
    await page.getByRole('button', { name: 'Draft the steps' }).click();
    await stands(page);
  });
});

test.describe('findings', () => {
  const LOOSE = {
    name: 'berths.csv',
    text: `Ref,Foot,Note\n${Array.from({ length: 12 }, (_, k) => `B${k},${k * 3 + 1},`).join('\n')}\nB3,10,\n`,
  };

  test('are seen when pointed at, taken by their number, and dismissed for good', async ({ page }) => {
    await dropped(page, LOOSE);
    await keepAll(page);
    const twice = findings(page).getByRole('button', { name: /^\d 1 row appears more than once/ });
    await twice.hover();
    await expect(page.getByText(/^Remove duplicates in all columns, keeping the first: 12 rows/)).toBeVisible();
    await page.mouse.move(640, 20);
    await page.keyboard.press((await twice.getAttribute('data-finding'))!);
    await expect(page.getByText(/· 12 rows × 3 columns/)).toBeVisible();
    await expect(twice).toBeHidden();
    await findings(page).getByRole('button', { name: 'Dismiss: Column Note is empty' }).click();
    await expect(findings(page)).toBeHidden();
    await expect(page.getByText(/^saved \d/)).toBeVisible();
    await page.reload();
    await expect(page.getByText(/· 12 rows × 3 columns/)).toBeVisible();
    await expect(findings(page)).toBeHidden();
    await page.keyboard.press('Control+z');
  });

  test('stand first in what comes next, before what fits the selection and the kinds of step', async ({ page }) => {
    await dropped(page, LOOSE);
    await keepAll(page);
    await selectColumns(page, 'Foot');
    await page.keyboard.press('/');
    const options = page.getByRole('listbox', { name: 'Kinds of step' }).getByRole('option');
    await expect(options.first()).toContainText('seen in the table');
    await expect(options.filter({ hasText: 'fits what is selected' }).first()).toContainText('Foot');
    await expect(options.filter({ hasText: 'Show the row you want' })).toHaveCount(1);
    await page.keyboard.press('ArrowDown');
    await expect(page.getByText(/, not taken yet$/)).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(options).toHaveCount(0);
  });

  test('a step without a selection asks the data for its columns', async ({ page }) => {
    await dropped(page, {
      name: 'years.csv',
      text: 'Quay,Ship,2029,2030\nHask,Orrin,5,6\nUllin,Ness,7,8\nTarve,Tolm,1,2\n',
    });
    await step(page, 2).hover();
    await step(page, 2).getByRole('button', { name: 'Keep to here' }).click();
    await page.keyboard.press('Escape');
    await expect(draft(page)).toBeHidden();
    await page.keyboard.press('/');
    await page.getByRole('combobox', { name: 'What next?' }).fill('unpivot');
    await page.keyboard.press('Enter');
    await expect(step(page, 3)).toContainText('all whose name is a year');
    await expect(page.getByText('after step 3 · 6 rows × 4 columns')).toBeVisible();
  });
});

test.describe('show what you want', () => {
  test('rows that are typed lead to their method; what differs is marked', async ({ page }) => {
    await dropped(page, {
      name: 'sailings.csv',
      text: 'Ref,Quay,Foot\nHU-0710/b,HASK,5\nTT-1510/a,TARVE,7\nUL-2210/c,ULLIN,9\n',
    });
    await page.getByRole('button', { name: 'Show the row you want' }).click();
    const fill = (row: number, texts: string[]) =>
      texts.reduce(
        (before, text, k) => before.then(() => page.locator(`[data-wanted="${row}:${k}"]`).fill(text)),
        Promise.resolve(),
      );
    await fill(0, ['0710', 'Hask', '5']);
    await expect(wanted(page).getByRole('status')).toHaveText('All rows reproduced', { timeout: 20_000 });
    await stands(page);
    await expect(tidy(page).locator('[data-cell="2:0"]')).toHaveText('2210');
    await expect(tidy(page).locator('[data-cell="2:1"]')).toHaveText('Ullin');

    // A slip in a second row is marked at its cell, and the rest stays.
    await fill(1, ['1510', 'Tarve', '8']);
    await expect(wanted(page).getByRole('status')).toContainText('% of cells match', { timeout: 20_000 });
    await expect(page.getByRole('textbox', { name: /^Foot, wanted row 2, the table has 7/ })).toBeVisible();
    await page.locator('[data-wanted="1:2"]').fill('7');
    await expect(wanted(page).getByRole('status')).toHaveText('All rows reproduced', { timeout: 20_000 });
    await page.locator('[data-wanted="1:2"]').press('Control+Enter');
    await expect(draft(page)).toBeHidden();
    await page.getByRole('button', { name: 'Close the rows' }).click();
    expect(await exportText(page, 'Tidy table as CSV')).toContain('2210,Ullin,9');
  });

  test('a finished table is pasted, or read from a file', async ({ page }) => {
    await dropped(page, WORKBOOK);
    await page.keyboard.press('Escape');
    await expect(draft(page)).toBeHidden();
    await page.getByRole('button', { name: 'Show the row you want' }).click();
    const lines = TRUTH.trim().split('\r\n').slice(0, 3);
    await paste(page, { 'text/plain': lines.join('\n').replaceAll(',', '\t') }, page.locator('[data-wanted="0:0"]'));
    await expect(page.getByRole('textbox', { name: 'Name of wanted column 1' })).toHaveValue('Port');
    await expect(wanted(page).getByRole('status')).toHaveText('All rows reproduced', { timeout: 20_000 });
    await stands(page);
    await expect(tidy(page).getByText('Port', { exact: true })).toBeVisible();

    const [chooser] = await Promise.all([
      page.waitForEvent('filechooser'),
      page.getByRole('button', { name: 'From a file' }).click(),
    ]);
    await chooser.setFiles('demo/truth/quay-returns-q2.csv');
    await expect(page.getByText(/and \d+ rows more/)).toBeVisible();
    await expect(wanted(page).getByRole('status')).toHaveText('All rows reproduced', { timeout: 20_000 });
    await stands(page);
    await page.getByRole('button', { name: 'Close the rows' }).click();
    await keepAll(page);
    expect(await exportText(page, 'Tidy table as CSV')).toBe(TRUTH);
  });

  test('a cell is typed over as it should read, and the steps for its column are offered', async ({ page }) => {
    await dropped(page, { name: 'sailings.csv', text: 'Ref,Foot\nHU-0710/b,5\nTT-1510/a,7\nUL-2210/c,9\n' });
    await keepAll(page);
    await tidy(page).locator('[data-cell="0:0"]').click();
    await page.keyboard.press('F2');
    await page.getByRole('textbox', { name: 'How this cell of Ref should read' }).fill('0710');
    await page.keyboard.press('Enter');
    const bar = page.getByRole('toolbar', { name: 'Actions for what is selected' });
    const offer = bar.getByRole('button', { name: /3 of 3 cells/ }).first();
    await offer.hover();
    await expect(page.getByText(/not taken yet$/)).toBeVisible();
    await offer.click();
    await expect(tidy(page).locator('[data-cell="2:0"]')).toHaveText('2210');
    await page.keyboard.press('Control+z');
    await expect(tidy(page).locator('[data-cell="2:0"]')).toHaveText('UL-2210/c');
    // Letters begin it, and what no step can do is said.
    await tidy(page).locator('[data-cell="1:1"]').click();
    await page.keyboard.press('x');
    await page.keyboard.press('Escape');
    await expect(tidy(page).locator('[data-cell="1:1"]')).toHaveText('7');
  });
});

test.describe('the clipboard', () => {
  test('cells of a spreadsheet become a report with their merges; on an open job it is asked what they are', async ({
    page,
  }) => {
    await page.goto('/');
    const cells =
      '<table><tr><td rowspan=2>Quay</td><td colspan=2>April</td><td colspan=2>May</td></tr>' +
      '<tr><td>Foot</td><td>Cars</td><td>Foot</td><td>Cars</td></tr>' +
      '<tr><td>Hask</td><td>5</td><td>1</td><td>6</td><td>2</td></tr>' +
      '<tr><td>Ullin</td><td>7</td><td>3</td><td>8</td><td>4</td></tr></table>';
    await paste(page, { 'text/html': cells, 'text/plain': 'Quay\tApril' });
    await stands(page);
    await keepAll(page);
    const csv = await exportText(page, 'Tidy table as CSV');
    expect(csv).toContain('Hask,April,5,1');
    expect(csv).toContain('Ullin,May,8,4');
    await paste(page, { 'text/plain': 'Quay\tFoot\nTarve\t5\nSkene\t7\n' });
    const dialog = page.getByRole('dialog', { name: 'pasted.txt' });
    await dialog.getByRole('button', { name: /^Add it to this job/ }).click();
    await stands(page);
    await expect(page.getByText('drafted · 2 rows × 2 columns')).toBeVisible();
    // Into a field goes what a field takes.
    await page.getByRole('textbox', { name: 'Name of the job' }).focus();
    await paste(page, { 'text/plain': 'a\tb' }, page.getByRole('textbox', { name: 'Name of the job' }));
    await expect(page.getByRole('dialog')).toHaveCount(0);
  });
});

test.describe('rows of the tape', () => {
  test('several are marked at once, by dragging, with Shift and by key; a rule is found for all of them', async ({
    page,
  }) => {
    await dropped(page, {
      name: 'quays.csv',
      text: 'Quay,Foot\nHask,5\nUllin,7\nTarve,9\nTotal,21\nMean,7\nSource: gates,\n',
    });
    await page.keyboard.press('Escape');
    await expect(draft(page)).toBeHidden();
    const tape = (row: number) => report(page).getByRole('button', { name: new RegExp(`^Row ${row}[,:]`) });
    await tape(5).hover();
    await page.mouse.down();
    await tape(6).hover();
    await tape(7).hover();
    await page.mouse.up();
    const menu = page.getByRole('dialog', { name: 'Rows 5 to 7 of the report' });
    await menu.getByRole('radio', { name: 'note', exact: true }).click();
    const below = menu.getByRole('button', { name: /^these and all below/ }).first();
    await expect(below).toContainText('only these rows');
    await below.click();
    await expect(page.getByText(/· 4 rows × 2 columns/)).toBeVisible();
    await page.keyboard.press('Control+z');

    await tape(5).click();
    await page.keyboard.press('Escape');
    await tape(6).click({ modifiers: ['Shift'] });
    const two = page.getByRole('dialog', { name: 'Rows 5 to 6 of the report' });
    await two.getByRole('radio', { name: 'total', exact: true }).click();
    await two.getByRole('list', { name: 'Rules' }).getByRole('button').first().click();
    await expect(step(page, 2)).toContainText('Set aside as totals');
    await expect(page.getByText(/· 5 rows × 2 columns/)).toBeVisible();
    await page.keyboard.press('Control+z');

    await report(page).locator('[data-cell="4:0"]').click();
    await report(page).focus();
    await page.keyboard.press('m');
    await expect(page.getByRole('dialog', { name: 'Row 5 of the report' })).toBeVisible();
  });
});

test('next month: where the method stops, the draft of the new report is offered beside the fixes', async ({
  page,
}) => {
  const folder = mkdtempSync(join(tmpdir(), 'rimefield-e2e-'));
  const next = join(folder, 'summer.csv');
  writeFileSync(next, 'Returns of summer\n\nPort,Quay,Foot\nNorth,Hask,5\nNorth,Ullin,7\nSouth,Tarve,9\nTotal,,21\n');
  await dropped(page, { name: 'spring.csv', text: 'Berth,Cars\nHask 1,5\nUllin 2,7\nTarve 3,9\n' });
  await keepAll(page);
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByRole('button', { name: 'Run again' }).click(),
  ]);
  await chooser.setFiles(next);
  const dialog = page.getByRole('dialog', { name: 'Run again' });
  const again = dialog.getByRole('region', { name: 'The draft of the new report' });
  await expect(again).toContainText('Or use a new draft: 3 rows × 3 columns', { timeout: 20_000 });
  const steps = again.getByRole('table', { name: 'Steps of the draft' });
  await expect(steps.getByRole('columnheader', { name: 'spring.csv' })).toBeVisible();
  await expect(steps.getByRole('row').filter({ hasText: 'new' }).first()).toContainText('×');
  await dialog.getByRole('button', { name: 'Use it with the draft' }).click();
  await expect(page.getByText(/after step \d · 3 rows × 3 columns/)).toBeVisible();
  await expect(page.getByText('0 unreadable', { exact: true })).toBeVisible();
});

test.describe('WCAG 2.2 AA by axe', () => {
  for (const scheme of ['light', 'dark'] as const) {
    test(`draft, findings, wanted rows, ${scheme}`, async ({ page }) => {
      test.setTimeout(120_000);
      await page.emulateMedia({ colorScheme: scheme, reducedMotion: 'reduce' });
      await dropped(page, WORKBOOK);
      await step(page, 3).hover();
      await expectAccessible(page, 'draft');
      await page.getByRole('button', { name: 'Show the row you want' }).click();
      await page.locator('[data-wanted="0:0"]').fill('Hask');
      await page.locator('[data-wanted="0:1"]').fill('nowhere');
      await expect(wanted(page).getByRole('status')).toContainText('%', { timeout: 20_000 });
      await expectAccessible(page, 'wanted rows');
      await page.goto('/');
      await dropBytes(page, strToU8('Ref,Foot,Note\nB1,1,\nB2,2,\nB3,3,\nB3,3,\n'), 'berths.csv');
      await stands(page);
      await keepAll(page);
      await findings(page).waitFor();
      await expectAccessible(page, 'findings');
      await page.keyboard.press('/');
      await page.getByRole('listbox', { name: 'Kinds of step' }).waitFor();
      await expectAccessible(page, 'what next');
    });
  }
});
