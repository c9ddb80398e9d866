/** A finished table, or some rows of it, as a search for the steps to it looks at it. */
import type { Column } from '../../table/column.ts';
import type { Table } from '../../table/table.ts';
import { cellText, textView } from '../../values/cell-text.ts';
import { plainText } from '../like.ts';

export interface GoalColumn {
  name: string;
  /** By row, plain; '' for blank. */
  texts: readonly string[];
  distinct: ReadonlySet<string>;
  /** By row, NaN for blank; undefined where a text is no number. */
  numbers: Float64Array | undefined;
  /** Decimal places that its numbers have at most. */
  places: number;
}

export interface Goal {
  rows: number;
  columns: readonly GoalColumn[];
  /** Every row of the finished table is there. */
  isWhole: boolean;
}

/** Digits behind a zero in front are a code. */
const NUMBER = /^-?(?:0|[1-9]\d*)(?:\.(\d+))?$/;

export function goalOf(table: Table, isWhole: boolean): Goal {
  const columns = table.fields.map(({ name, column }): GoalColumn => {
    const texts = Array.from({ length: table.rows }, (_, r) => plainText(cellText(column, r)));
    const isNumber = texts.some((text) => text !== '') && texts.every((text) => text === '' || NUMBER.test(text));
    return {
      name,
      texts,
      distinct: new Set(texts),
      numbers: isNumber ? Float64Array.from(texts, (text) => (text === '' ? Number.NaN : Number(text))) : undefined,
      places: Math.max(0, ...texts.map((text) => NUMBER.exec(text)?.[1]?.length ?? 0)),
    };
  });
  return { rows: table.rows, columns, isWhole };
}

/** A column of the table as the goal is compared with it. */
export interface PlainColumn {
  codes: Int32Array;
  texts: readonly string[];
  distinct: ReadonlySet<string>;
  /** Rows by what they read. */
  rowsOf: ReadonlyMap<string, readonly number[]>;
}

const plains = new WeakMap<Column, PlainColumn>();

export function plainColumn(column: Column): PlainColumn {
  let plain = plains.get(column);
  if (plain === undefined) {
    const view = textView(column);
    const texts = view.texts.map(plainText);
    const rowsOf = new Map<string, number[]>();
    view.codes.forEach((code, r) => {
      const text = code < 0 ? '' : texts[code]!;
      const rows = rowsOf.get(text);
      if (rows === undefined) rowsOf.set(text, [r]);
      else rows.push(r);
    });
    plain = { codes: view.codes, texts, distinct: new Set(rowsOf.keys()), rowsOf };
    plains.set(column, plain);
  }
  return plain;
}

export const plainAt = ({ codes, texts }: PlainColumn, row: number): string =>
  codes[row]! < 0 ? '' : texts[codes[row]!]!;

/** Numbers of a column; undefined where it holds none. */
export function numbersOf(column: Column): Float64Array | undefined {
  return column.type === 'number' || column.type === 'whole' ? column.values : undefined;
}

/** How a number meets what is wanted: as it is, or once it is rounded to the places that the goal shows. */
export type Meeting = 'exact' | 'rounded' | undefined;

export function meets(value: number, wanted: number, places: number): Meeting {
  if (Number.isNaN(wanted)) return Number.isNaN(value) ? 'exact' : undefined;
  const apart = Math.abs(value - wanted);
  if (apart <= 1e-9 * Math.max(1, Math.abs(wanted))) return 'exact';
  // What was rounded shows some digits: a small whole number is met by chance.
  const isTelling = places > 0 || Math.abs(wanted) >= 100;
  return isTelling && apart <= 0.5 * 10 ** -places + 1e-9 ? 'rounded' : undefined;
}
