import { readFileSync } from 'node:fs';
import { expect, type Page } from '@playwright/test';
import { ACTIONS } from './actions.ts';
import { dropFile, exportText, test } from './bench.ts';
import { Hands } from './hands.ts';

/** How each demo job is built from its dropped file, by pointing as far as that goes. */
const BUILT: Record<string, { file: string; truth: string; build(hands: Hands): Promise<void> }> = {
  'booking-export': {
    file: 'booking-export.csv',
    truth: 'booking-export',
    async build(hands) {
      await hands.step('header');
      await hands.rename('Fare €', 'Fare');
      await hands.rename('I', 'Remark');
      await hands.step('set types');
    },
  },
  'quay-returns': {
    file: 'quay-returns-q2.xlsx',
    truth: 'quay-returns-q2',
    async build(hands) {
      await hands.step('header');
      await hands.step('blank rows');
      await hands.mark(28, 'note', /below the last/);
      await hands.mark(6, 'label');
      await hands.mark(11, 'total', /ends with total/);
      await hands.selectTo('Quarter / Foot', 'Quarter / Vehicles');
      await hands.take('Set aside as totals');
      await hands.step('unpivot');
      await hands.step('set types');
      await hands.renameFrom('Sheet', 'Port', 'Route', '', 'Month', 'Foot passengers');
    },
  },
  weighbridge: {
    file: 'weighbridge.prn',
    truth: 'weighbridge',
    async build(hands) {
      await hands.mark(2, 'label');
      await hands.step('header');
      await hands.mark(20, 'title');
      await hands.step('blank rows');
      await hands.mark(34, 'total', /SUBTOTAL/);
      await hands.selectText('0:0', 'PORT ');
      await hands.take(/^Replace/);
      await hands.step('set types');
      await hands.renameFrom('Label', 'Port', 'Ticket', 'Time', 'Haulier', 'Goods', 'Gross kg');
    },
  },
  crossings: {
    file: 'crossings.pdf',
    truth: 'crossings',
    async build(hands) {
      await hands.step('header');
      await hands.mark(23, 'total', /starts with Week/);
      await hands.mark(105, 'total', /only this row/);
      await hands.step('set types');
    },
  },
  'sailing-records': {
    file: 'sailings.json',
    truth: 'sailings',
    async build(hands) {
      await hands.page.getByRole('button', { name: /1 item whose list is empty/ }).click();
      hands.count++;
      await hands.blankCell(3);
      await hands.take(/^Set aside rows where ref is blank/);
      await hands.select('vehicle');
      await hands.take('Split at / into 2 columns');
      await hands.renameFrom(
        'port',
        ...['Port', 'Sailing', 'Departed', 'Booking', 'Adults', 'Children', 'Extras', 'Vehicle', 'Length m'],
      );
      await hands.select('Extras');
      await hands.take('Move to the end');
      await hands.step('set types');
    },
  },
  manifest: {
    file: 'manifest.txt',
    truth: 'manifest',
    async build(hands) {
      const packed = 'Records (ref|name|foot|vehicle)';
      await hands.step('header');
      await hands.selectText('0:3', '; ');
      await hands.take(/into rows$/);
      await hands.select(packed);
      await hands.take('Split at | into 4 columns');
      await hands.renameFrom(`${packed} 1`, 'Ref', 'Name', 'Foot', 'Vehicle');
      await hands.step('set types');
    },
  },
  'gate-log': {
    file: 'gate.log',
    truth: 'gate',
    async build(hands) {
      await hands.pieces({
        Date: /\d{4}-\d\d-\d\d/,
        Time: /\d\d:\d\d:\d\d/,
        Port: /(?<=\] )\w+/,
        Gate: /(?<=gate )\d/,
        Event: /(?<=: )[a-z ]+(?= ")/,
        Sailing: /(?<=")[^"]+/,
        Foot: /(?<=foot )\d+/,
        Cars: /(?<=cars )\d+/,
      });
      await hands.page.getByRole('button', { name: 'Set aside', exact: true }).click();
      hands.count++;
      await hands.settled(3);
      await hands.step('set types');
    },
  },
  'timetable-copy': {
    file: 'timetable-copy.csv',
    truth: 'timetable-copy',
    async build(hands) {
      await hands.step('header');
      await hands.mark(20, 'other', /^Foot starts with Page/);
      await hands.step('close gaps');
      await hands.select('F', 'G');
      await hands.take('Drop');
      await hands.step('set types');
    },
  },
  'monthly-files': {
    file: 'arrivals-2030.zip',
    truth: 'arrivals-2030',
    async build(hands) {
      await hands.step('header');
      await hands.mark(6, 'total', /^Quay/);
      await hands.select('File');
      await hands.take('Drop');
      await hands.rename('Part', 'Month');
      await hands.select('Sailings', 'Foot', 'Vehicles');
      await hands.take('Set type');
    },
  },
  'crew-list': {
    file: 'crew-list.txt',
    truth: 'crew-list',
    async build(hands) {
      await hands.mark(1, 'title');
      await hands.blankCell(0);
      await hands.take('Fill down');
      await hands.blankCell(1);
      await hands.take(/^Set aside rows where Name is blank/);
      await hands.select('Other lines');
      await hands.take('Drop');
      await hands.step('set types');
    },
  },
  'fares-page': {
    file: 'fares.html',
    truth: 'fares',
    async build(hands) {
      await hands.page.getByRole('button', { name: /More of this sentence/ }).click();
      await hands.page.getByRole('button', { name: /^Cells of a merge/ }).click();
      await hands.page.getByRole('radio', { name: 'every cell' }).click();
      hands.count += 3;
      await hands.step('header');
      await hands.rename('Sheet', 'Quay');
      await hands.selectTo('Summer / Single', 'Winter / Return');
      await hands.take('Unpivot');
      await hands.rename('Name', 'Season');
      await hands.step('set types');
    },
  },
};

async function build(page: Page, name: string): Promise<void> {
  const { file, truth, build: by } = BUILT[name]!;
  await page.goto('/');
  await dropFile(page, `demo/files/${file}`);
  const hands = new Hands(page);
  await hands.settled(1);
  await by(hands);
  await expect(page.getByText('0 unreadable', { exact: true })).toBeVisible();
  expect(await exportText(page, 'Tidy table as CSV')).toBe(readFileSync(`demo/truth/${truth}.csv`, 'utf8'));
  expect(hands.count, 'actions; if it is fewer now, write it down').toBe(ACTIONS[name]);
}

for (const name of Object.keys(BUILT)) {
  test(`${name}, from the dropped file to its truth`, ({ page }) => build(page, name));
}
