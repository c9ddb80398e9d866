import { utils, write } from '@e965/xlsx';
import { unzipSync, zipSync } from 'fflate';
import type { Chance } from './chance.ts';
import type { Truth } from './same-table.ts';
import type { Measure, Scenario } from './scenarios.ts';

/** A report with the table it was made from. */
export interface MadeReport {
  family: string;
  name: string;
  bytes: Uint8Array;
  want: Truth;
}

/** A date as days since 1970-01-01 that a workbook holds as one. */
export interface Day {
  day: number;
}
export type Cell = string | number | Day | null;

export interface Sheet {
  name: string;
  rows: (readonly Cell[])[];
  merges?: { row: number; column: number; rows: number; columns: number }[];
}

const EPOCH = 25569;

export function isoDay({ day }: Day): string {
  return new Date(day * 86400000).toISOString().slice(0, 10);
}

/** The cell as the tidy table holds it. */
export function tidy(cell: Cell): string {
  return cell === null ? '' : typeof cell === 'object' ? isoDay(cell) : String(cell);
}

export function workbook(sheets: readonly Sheet[]): Uint8Array {
  const book = utils.book_new();
  for (const { name, rows, merges } of sheets) {
    const sheet = utils.aoa_to_sheet(
      rows.map((row) =>
        row.map((cell) =>
          cell !== null && typeof cell === 'object' ? { t: 'n', v: cell.day + EPOCH, z: 'yyyy-mm-dd' } : cell,
        ),
      ),
    );
    if (merges !== undefined)
      sheet['!merges'] = merges.map(({ row, column, rows: high, columns: wide }) => ({
        s: { r: row, c: column },
        e: { r: row + high - 1, c: column + wide - 1 },
      }));
    utils.book_append_sheet(book, sheet, name);
  }
  return new Uint8Array(write(book, { type: 'array', bookType: 'xlsx' }) as ArrayBuffer);
}

/** The same workbook with texts of its first column that begin with blanks indented by the style of their cell. */
export function indentedByStyle(sheet: Sheet): Uint8Array {
  const steps = sheet.rows.map((row) => (typeof row[0] === 'string' ? (/^ */.exec(row[0])?.[0].length ?? 0) / 2 : 0));
  const plain = workbook([
    {
      ...sheet,
      rows: sheet.rows.map((row) => [
        typeof row[0] === 'string' ? row[0].trimStart() : (row[0] ?? null),
        ...row.slice(1),
      ]),
    },
  ]);
  const entries = unzipSync(plain);
  const [decoder, encoder] = [new TextDecoder(), new TextEncoder()];
  const styles = decoder.decode(entries['xl/styles.xml']);
  const count = (/<cellXfs[^>]*>([\s\S]*?)<\/cellXfs>/.exec(styles)?.[1]?.match(/<xf /g) ?? []).length;
  const added = [1, 2, 3, 4]
    .map(
      (indent) =>
        `<xf numFmtId="0" fontId="0" fillId="0" borderId="0" xfId="0" applyAlignment="1"><alignment indent="${indent}"/></xf>`,
    )
    .join('');
  entries['xl/styles.xml'] = encoder.encode(styles.replace('</cellXfs>', `${added}</cellXfs>`));
  const xml = decoder.decode(entries['xl/worksheets/sheet1.xml']).replace(/<c r="A(\d+)"/g, (cell, row: string) => {
    const step = Math.min(4, steps[Number(row) - 1] ?? 0);
    return step === 0 ? cell : `${cell} s="${count + step - 1}"`;
  });
  entries['xl/worksheets/sheet1.xml'] = encoder.encode(xml);
  return zipSync(entries);
}

export const bytesOf = (text: string) => new TextEncoder().encode(text);

export function figure(chance: Chance, { decimals, most }: Measure): number {
  const size = 10 ** (chance.next() * Math.log10(most));
  return Number(size.toFixed(decimals));
}

export function sum(values: readonly (number | null)[], decimals = 6): number {
  return Number(values.reduce<number>((total, value) => total + (value ?? 0), 0).toFixed(decimals));
}

/** Lines above a table: from none to four, with blank rows between. */
export function titles(chance: Chance, s: Scenario, width: number): Cell[][] {
  const count = chance.whole(0, 4);
  const blank = (): Cell[] => new Array<Cell>(width).fill(null);
  const lines =
    count === 0 ? [] : [`${s.title} ${chance.whole(2024, 2031)}`, ...chance.some(s.words.titles, count - 1)];
  return [
    ...lines.map((line): Cell[] => [line]),
    ...(count > 0 && chance.yes(0.7) ? [blank()] : []),
    ...(count > 0 && chance.yes(0.3) ? [blank()] : []),
  ];
}

export function notes(chance: Chance, s: Scenario): Cell[][] {
  const count = chance.whole(0, 3);
  return count === 0
    ? []
    : [
        ...(chance.yes(0.8) ? [[null] as Cell[]] : []),
        ...chance.some(s.words.notes, count).map((one): Cell[] => [one]),
      ];
}

/** The table begins some columns to the right, as reports like to. */
export function shift(chance: Chance, rows: readonly (readonly Cell[])[]): Cell[][] {
  const by = chance.yes(0.25) ? chance.whole(1, 2) : 0;
  return rows.map((row) => [...new Array<Cell>(by).fill(null), ...row]);
}

export const truth = (names: readonly string[], rows: readonly (readonly Cell[])[]): Truth => ({
  names,
  rows: rows.map((row) => row.map(tidy)),
});
