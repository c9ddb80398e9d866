import { type CompiledFormula, compileFormula } from '../formula/compile.ts';
import { dateField } from '../formula/dates.ts';
import { FormulaError, placedMessage } from '../formula/formula-error.ts';
import { unreadableAt, unseenMask } from '../table/column.ts';
import type { Table } from '../table/table.ts';
import { flags } from '../table/vectors.ts';
import { textView } from '../values/cell-text.ts';
import { MS } from '../values/civil.ts';
import { compilePatterns, readText } from '../values/convert.ts';
import { NumberForm } from '../values/number-text.ts';
import { type ColumnSet, chosenColumns, compilePattern } from './column-set.ts';
import type { Rule, TextRule } from './rule.ts';
import { missingColumn, needColumn, StepFailure } from './step.ts';

/**
 * 1 for each row that follows the rule.
 * @throws StepFailure when the rule names a column that is gone, or its pattern is broken
 */
export function ruleMask(rule: Rule, table: Table): Uint8Array {
  switch (rule.test) {
    case 'empty':
      return emptyMask(table);
    case 'only':
      return onlyMask(rule.columns, table);
    case 'blank':
      return everyColumn(table, rule.columns, 1);
    case 'filled':
      return everyColumn(table, rule.columns, 0);
    case 'unreadable': {
      const mask = new Uint8Array(table.rows);
      for (const k of chosenColumns(rule.columns, table)) {
        const { column } = table.fields[k]!;
        for (let r = 0; r < table.rows; r++) if (unreadableAt(column, r) !== undefined) mask[r] = 1;
      }
      return mask;
    }
    case 'above-first':
    case 'below-last':
      return positionMask(rule, table);
    case 'between-rows':
      return stretchMask(rule, table);
    case 'place':
      return placeMask(rule, table);
    case 'one-of': {
      const wanted = new Set(rule.texts.map((text) => text.trim()));
      return viewMask(table, rule.column, (text) => wanted.has(text.trim()));
    }
    case 'between':
      return betweenMask(rule, table);
    case 'date-part':
      return datePartMask(rule, table);
    case 'header':
      return sameMask(
        Object.fromEntries(
          table.fields.filter((field) => field.standing !== 'beside').map((field) => [field.name, field.name]),
        ),
        table,
      );
    case 'same':
      return sameMask(rule.cells, table);
    case 'expression':
      return conditionMask(rule.text, table);
    default:
      return textMask(rule, table);
  }
}

/** 1 for each row that follows any of the rules. */
export function anyRuleMask(rules: readonly Rule[], table: Table): Uint8Array {
  const mask = new Uint8Array(table.rows);
  for (const rule of rules) {
    const one = ruleMask(rule, table);
    for (let r = 0; r < mask.length; r++) mask[r]! |= one[r]!;
  }
  return mask;
}

/** 1 for each row in which nothing (wanted 1) or something (wanted 0) can be seen in every one of the columns. */
function everyColumn(table: Table, set: ColumnSet, wanted: 0 | 1): Uint8Array {
  const chosen = chosenColumns(set, table);
  const mask = new Uint8Array(table.rows).fill(chosen.length === 0 ? 0 : 1);
  for (const k of chosen) {
    const unseen = unseenMask(table.fields[k]!.column);
    for (let r = 0; r < table.rows; r++) if (unseen[r] !== wanted) mask[r] = 0;
  }
  return mask;
}

function emptyMask(table: Table): Uint8Array {
  return onlyMask([], table);
}

function onlyMask(names: readonly string[], table: Table): Uint8Array {
  const wanted = new Set(names.map((name) => needColumn(table, name)));
  const mask = new Uint8Array(table.rows).fill(1);
  table.fields.forEach((field, k) => {
    if (field.standing === 'beside' && !wanted.has(k)) return;
    const blank = unseenMask(field.column);
    const want = wanted.has(k) ? 0 : 1;
    for (let r = 0; r < mask.length; r++) if (blank[r] !== want) mask[r] = 0;
  });
  return mask;
}

function textMask(rule: TextRule, table: Table): Uint8Array {
  return viewMask(table, rule.column, textTest(rule));
}

/** 1 where the column's cell, as it reads, passes the test; each different text is tested once. */
function viewMask(table: Table, column: string, test: (text: string) => boolean): Uint8Array {
  const { codes, texts } = textView(table.fields[needColumn(table, column)]!.column);
  const holds = flags(texts, (text) => test(text));
  const mask = new Uint8Array(table.rows);
  for (let r = 0; r < mask.length; r++) {
    const code = codes[r]!;
    mask[r] = code < 0 ? 0 : holds[code]!;
  }
  return mask;
}

function textTest(rule: TextRule): (text: string) => boolean {
  if (rule.test === 'matches') {
    const pattern = compilePattern(rule.text, !rule.exact);
    return (text) => pattern.test(text);
  }
  const plain = (text: string) => (rule.exact ? text : text.trim().toLowerCase());
  const wanted = plain(rule.text);
  switch (rule.test) {
    case 'equals':
      return (text) => plain(text) === wanted;
    case 'starts':
      return (text) => plain(text).startsWith(wanted);
    case 'ends':
      return (text) => plain(text).endsWith(wanted);
    default:
      return (text) => plain(text).includes(wanted);
  }
}

/** Start of each run of equal values, and the number of rows at the end; one run of all rows without a column. */
export function runStarts(table: Table, within: string | undefined): number[] {
  if (within === undefined || within === '') return [0, table.rows];
  const index = table.fields.findIndex((field) => field.name === within);
  if (index < 0)
    throw missingColumn(
      within,
      table.fields.map((field) => field.name),
    );
  const { codes, texts } = textView(table.fields[index]!.column);
  const starts = [0];
  for (let r = 1; r < table.rows; r++) {
    if (codes[r] !== codes[r - 1] && texts[codes[r]!] !== texts[codes[r - 1]!]) starts.push(r);
  }
  starts.push(table.rows);
  return starts;
}

function sameMask(cells: Record<string, string | null>, table: Table): Uint8Array {
  const mask = new Uint8Array(table.rows).fill(1);
  for (const [name, cell] of Object.entries(cells)) {
    const { codes, texts } = textView(table.fields[needColumn(table, name)]!.column);
    const wanted = cell?.trim();
    const same = flags(texts, (text) => text.trim() === wanted);
    for (let r = 0; r < mask.length; r++) {
      const code = codes[r]!;
      mask[r]! &= code < 0 ? (cell === null ? 1 : 0) : same[code]!;
    }
  }
  return mask;
}

function betweenMask(rule: Extract<Rule, { test: 'between' }>, table: Table): Uint8Array {
  const { column } = table.fields[needColumn(table, rule.column)]!;
  const type = column.type === 'text' || column.type === 'received' ? 'number' : column.type;
  const form = { type, number: NumberForm.parse({}), patterns: compilePatterns(type, undefined, 'any', 1950) };
  const end = (text: string | null, none: number) => {
    if (text === null || text.trim() === '') return none;
    const { value, reason } = readText(text, form);
    if (reason !== undefined)
      throw new StepFailure(`'${text}' cannot be compared with ${rule.column}: ${reason}.`, rule.column);
    return value;
  };
  const [least, most] = [end(rule.least, Number.NEGATIVE_INFINITY), end(rule.most, Number.POSITIVE_INFINITY)];
  if (column.type === 'text' || column.type === 'received') {
    return viewMask(table, rule.column, (text) => {
      const { value } = readText(text, form);
      return value >= least && value <= most;
    });
  }
  return flags(column.values, (value) => value >= least && value <= most);
}

function datePartMask(rule: Extract<Rule, { test: 'date-part' }>, table: Table): Uint8Array {
  const { column } = table.fields[needColumn(table, rule.column)]!;
  if (column.type !== 'date' && column.type !== 'datetime') {
    throw new StepFailure(
      `${rule.column} holds no dates (it is ${column.type}). Set its type to date first.`,
      rule.column,
    );
  }
  const wanted = new Set(rule.is);
  const scale = column.type === 'datetime' ? MS.day : 1;
  return flags(
    column.values,
    (value) => !Number.isNaN(value) && wanted.has(dateField(Math.floor(value / scale), rule.part)),
  );
}

/**
 * 1 where a SQL condition is true.
 * @throws StepFailure with the place of what is wrong, or the first row in which it cannot be told
 */
export function conditionMask(text: string, table: Table): Uint8Array {
  const { mask, failed } = formulaOf(text, table).mask();
  const first = failed.entries().next().value;
  if (first !== undefined)
    throw new StepFailure(`The condition ${text} cannot be checked in row ${first[0] + 1}: ${first[1]}.`);
  return mask;
}

/** The compiled expression. @throws StepFailure with the place of what is wrong */
export function formulaOf(text: string, table: Table): CompiledFormula {
  try {
    return compileFormula(text, table);
  } catch (error) {
    if (error instanceof FormulaError) throw new StepFailure(placedMessage(error, text));
    throw error;
  }
}

function stretchMask(rule: Extract<Rule, { test: 'between-rows' }>, table: Table): Uint8Array {
  const [opens, closes] = [ruleMask(rule.row, table), ruleMask(rule.until, table)];
  const mask = new Uint8Array(table.rows);
  const starts = runStarts(table, rule.within);
  for (let k = 0; k + 1 < starts.length; k++) {
    let from = -1;
    for (let r = starts[k]!; r < starts[k + 1]!; r++) {
      if (from < 0 && opens[r] === 1) from = r;
      else if (from >= 0 && closes[r] === 1) {
        mask.fill(1, from, r + 1);
        from = -1;
      }
    }
  }
  return mask;
}

function placeMask(rule: Extract<Rule, { test: 'place' }>, table: Table): Uint8Array {
  const mask = new Uint8Array(table.rows);
  const starts = runStarts(table, rule.within);
  for (let k = 0; k + 1 < starts.length; k++) {
    const [from, to] = [starts[k]!, starts[k + 1]!];
    if (rule.which === 'first') mask.fill(1, from, Math.min(to, from + rule.count));
    else if (rule.which === 'last') mask.fill(1, Math.max(from, to - rule.count), to);
    else if (rule.which === 'range') mask.fill(1, Math.min(to, from + rule.from - 1), Math.min(to, from + rule.count));
    else for (let r = from + rule.from - 1; r < to; r += rule.count) mask[r] = 1;
  }
  return mask;
}

function positionMask(rule: Extract<Rule, { test: 'above-first' | 'below-last' }>, table: Table): Uint8Array {
  const anchor = ruleMask(rule.row, table);
  const mask = new Uint8Array(table.rows);
  const starts = runStarts(table, rule.within);
  for (let k = 0; k + 1 < starts.length; k++) {
    const [from, to] = [starts[k]!, starts[k + 1]!];
    if (rule.test === 'above-first') {
      const first = anchor.indexOf(1, from);
      if (first >= 0 && first < to) mask.fill(1, from, first);
    } else {
      const last = to === 0 ? -1 : anchor.lastIndexOf(1, to - 1);
      if (last >= from) mask.fill(1, last + 1, to);
    }
  }
  return mask;
}
