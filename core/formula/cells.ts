/** What expressions are compiled to: closures that give the value of a row. */
import { type Column, type CountedType, Tag, typeOfTag } from '../table/column.ts';
import { countedText } from '../values/cell-text.ts';
import { compilePatterns, readText } from '../values/convert.ts';
import { adder, divider, multiplier, remainder } from '../values/decimal.ts';
import { NumberForm } from '../values/number-text.ts';
import { byCodePoint } from '../values/text.ts';
import type { FormulaType, Value } from './functions.ts';

/** Gives the value of a row, or null. */
export type Cell = (row: number) => Value | null;

/** What a part of the expression is: its type ('null' fits all) and how its value is found. */
export interface Part {
  type: FormulaType | 'null';
  cell: Cell;
  /** The same for every row. */
  constant: boolean;
}

export const COUNTED_OF: Record<Exclude<FormulaType, 'text'>, CountedType> = {
  number: 'number',
  boolean: 'yesno',
  date: 'date',
  time: 'time',
  timestamp: 'datetime',
};

export const CASTS = new Set([
  'timestamp date',
  'timestamp time',
  'date timestamp',
  'boolean number',
  'number boolean',
]);

/** How an operator computes, for one place in an expression; decimals give decimals. */
export const ARITHMETIC: Record<string, () => (x: number, y: number) => number> = {
  '+': () => adder(1),
  '-': () => adder(-1),
  '*': multiplier,
  '/': divider,
  '%': () => remainder,
};

export function boolean(cell: Cell): Part {
  return { type: 'boolean', cell, constant: false };
}

export function roundHalfAway(value: number): number {
  return Math.sign(value) * Math.round(Math.abs(value)) || 0;
}

// Three-valued logic (ISO/IEC 9075-2, 6.39). The right side is left alone where the left decides.
export function and(left: Cell, right: Cell): Cell {
  return (r) => {
    const x = left(r);
    if (x === 0) return 0;
    const y = right(r);
    return y === 0 ? 0 : x === null || y === null ? null : 1;
  };
}

export function or(left: Cell, right: Cell): Cell {
  return (r) => {
    const x = left(r);
    if (x === 1) return 1;
    const y = right(r);
    return y === 1 ? 1 : x === null || y === null ? null : 0;
  };
}

export function not(of: Cell): Cell {
  return (r) => {
    const value = of(r);
    return value === null ? null : value === 1 ? 0 : 1;
  };
}

const TESTS: Record<string, (x: Value, y: Value) => boolean> = {
  '=': (x, y) => x === y,
  '<>': (x, y) => x !== y,
  '<': (x, y) => order(x, y) < 0,
  '<=': (x, y) => order(x, y) <= 0,
  '>': (x, y) => order(x, y) > 0,
  '>=': (x, y) => order(x, y) >= 0,
};

export function compare(operator: string, left: Cell, right: Cell): Cell {
  const test = TESTS[operator]!;
  return (r) => {
    const x = left(r);
    const y = right(r);
    return x === null || y === null ? null : test(x, y) ? 1 : 0;
  };
}

/** Numbers by size, texts by code point. */
function order(x: Value, y: Value): number {
  if (typeof x === 'number' || typeof y === 'number') return (x as number) - (y as number);
  return byCodePoint(x, y);
}

export function asText(part: Part): Cell {
  if (part.type === 'text' || part.type === 'null') return part.cell;
  const counted = COUNTED_OF[part.type];
  return (r) => {
    const value = part.cell(r);
    if (value === null) return null;
    return part.type === 'boolean' ? (value === 1 ? 'true' : 'false') : countedText(counted, value as number);
  };
}

/** Reads ISO 8601 dates and times, true and false, and numbers with a decimal point. */
export function textReader(type: FormulaType): (text: string) => number | string {
  const counted = COUNTED_OF[type as Exclude<FormulaType, 'text'>];
  const form = {
    type: counted,
    number: NumberForm.parse({ grouping: 'none' }),
    patterns: compilePatterns(counted, undefined, 'en', 1950),
  };
  return (text) => {
    if (text.trim() === '') return 'nothing stands here';
    const reading = readText(text, form);
    return reading.reason ?? reading.value;
  };
}

export function onlyType(column: Extract<Column, { type: 'received' }>): CountedType | undefined {
  let only = 0;
  for (const tag of column.tags) {
    if (tag === Tag.blank || tag === Tag.unreadable || tag === only) continue;
    if (only !== 0) return undefined;
    only = tag;
  }
  return typeOfTag(only);
}

/** Functions that have their own way with null. */
export const SPECIAL: Record<string, (cells: readonly Cell[], parts: readonly Part[]) => Cell> = {
  coalesce: (cells) => (r) => {
    for (const cell of cells) {
      const value = cell(r);
      if (value !== null) return value;
    }
    return null;
  },
  nullif: (cells) => (r) => {
    const value = cells[0]!(r);
    return value !== null && value === cells[1]!(r) ? null : value;
  },
  greatest: (cells) => (r) => extreme(cells, r, 1),
  least: (cells) => (r) => extreme(cells, r, -1),
  concat: (_, parts) => {
    const texts = parts.map(asText);
    return (r) => texts.map((text) => text(r) ?? '').join('');
  },
};

function extreme(cells: readonly Cell[], row: number, sign: number): Value | null {
  let best: Value | null = null;
  for (const cell of cells) {
    const value = cell(row);
    if (value !== null && (best === null || sign * order(value, best) > 0)) best = value;
  }
  return best;
}
