import { CellKind, type ColumnProfile, type TableProfile, textAt } from '../glance/table-profile.ts';
import { patternsFor } from '../steps/cells/type-patterns.ts';
import type { Column } from '../table/column.ts';
import { usedTexts, writtenTexts } from '../values/cell-text.ts';
import { areSerialDays } from '../values/civil.ts';
import { compilePatterns, toCounted } from '../values/convert.ts';
import { type NumberDoubt, type NumberReading, numberReading } from '../values/number-column.ts';
import { NumberForm } from '../values/number-text.ts';
import { isNumbering } from '../values/numbering.ts';
import type { Doubt } from './doubt.ts';
import type { Detector, Finding } from './finding.ts';

interface TypeSet {
  columns: { by: 'names'; names: string[] };
  type: string;
  number?: { decimal: string; grouping: string };
  patterns?: readonly string[];
  serial?: 1900;
}

/** What columns hold, where every cell of them reads so: figures in the table's own form, dates, times. */
export const types: Detector = {
  name: 'types',
  find({ profile, within }) {
    const doubts: Doubt[] = [];
    const open: { name: string; doubt: NumberDoubt & { code: 'open-marks' } }[] = [];
    const typed: { name: string; set: Omit<TypeSet, 'columns'> }[] = [];
    let dates: ReturnType<typeof dayColumns> | undefined;
    for (const column of profile.columns) {
      const field = profile.table.fields[column.index]!;
      if (field.column.type !== 'text' && field.column.type !== 'received') continue;
      const filled = profile.rows - column.counts[CellKind.blank]!;
      if (filled === 0) continue;
      if (column.counts[CellKind.figure] === filled && isNumbering(textsOf(column, profile.rows))) continue;
      if (column.counts[CellKind.figure] === filled) {
        const reading = readingOf(column, profile);
        for (const doubt of reading.doubts)
          if (doubt.code !== 'open-marks') doubts.push({ code: 'number', column: column.name, doubt });
          else if (!isProven(profile)) open.push({ name: column.name, doubt });
        if (reading.type === 'whole') dates ??= dayColumns(profile);
        const beside =
          reading.type === 'whole' ? dates?.find(({ days }) => areSerialDays(column.values, days)) : undefined;
        if (beside !== undefined) {
          typed.push({ name: column.name, set: { type: 'date', serial: 1900 } });
          doubts.push({ code: 'serial-days', column: column.name, beside: beside.name });
        } else if (reading.type !== undefined)
          typed.push({ name: column.name, set: numberSet(column, profile, reading) });
      } else if (column.counts[CellKind.date]! + serials(column) === filled) {
        const dates = writtenTexts(field.column).filter((text) => !SERIAL.test(text.trim()));
        const guess = dates.length === 0 ? { type: 'date' as const } : patternsFor(dates);
        if (guess === undefined) continue;
        const isMixed = column.counts[CellKind.date]! < filled;
        // A serial day among times of day would be something else.
        if (isMixed && guess.type === 'time') continue;
        typed.push({ name: column.name, set: { ...guess, ...(isMixed ? { serial: 1900 } : {}) } });
        if (isMixed) doubts.push({ code: 'dates-and-serials', column: column.name, serials: serials(column) });
        const doubt = dayDoubt(profile, column);
        if (doubt !== undefined) doubts.push(doubt);
      }
    }
    typed.push(...besideTypes(profile, within));
    const [first] = open;
    const doubt: Doubt | undefined =
      first === undefined ? doubts[0] : { code: 'number', column: first.name, doubt: first.doubt };
    // What stays text is open too where units or marks disagree.
    if (typed.length === 0) return doubt === undefined ? [] : [{ steps: [], weight: 0, doubt }];
    const own = finding(typed, doubt);
    if (first === undefined) return [own];
    // Both readings of a mark are offered.
    const other = profile.decimal === '.' ? ',' : '.';
    const names = new Set(open.map(({ name }) => name));
    const swapped = typed.map((one) => {
      const column = profile.columns.find(({ name }) => name === one.name)!;
      const reading = names.has(one.name) ? readingOf(column, profile, other) : undefined;
      return reading?.type === undefined ? one : { ...one, set: numberSet(column, profile, reading) };
    });
    const { asDecimal, asThousands, mark } = first.doubt;
    const [ownValue, otherValue] = mark === profile.decimal ? [asDecimal, asThousands] : [asThousands, asDecimal];
    return [
      { ...own, gives: `${first.name} as ${ownValue}` },
      { ...finding(swapped, doubt), weight: own.weight - 0.2, gives: `${first.name} as ${otherValue}` },
    ];
  },
};

const textsOf = (column: ColumnProfile, rows: number) => Array.from({ length: rows }, (_, r) => textAt(column, r));

function finding(typed: readonly { name: string; set: Omit<TypeSet, 'columns'> }[], doubt: Doubt | undefined): Finding {
  const sets = new Map<string, TypeSet>();
  for (const { name, set } of typed) {
    const key = JSON.stringify(set);
    const group = sets.get(key) ?? { columns: { by: 'names' as const, names: [] }, ...set };
    group.columns.names.push(name);
    sets.set(key, group);
  }
  const list = [...sets.values()];
  const said = list.map(
    (set) =>
      `${set.columns.names.slice(0, 3).join(', ')}${set.columns.names.length > 3 ? ' …' : ''} ${set.type}${set.number === undefined ? '' : ` (decimal ${set.number.decimal === ',' ? 'comma' : 'point'})`}`,
  );
  return {
    steps: [{ kind: 'set-types', params: { types: list }, why: `every cell matches: ${said.join('; ')}` }],
    weight: 0.5,
    ...(doubt === undefined ? {} : { doubt }),
  };
}

/** Labels and lines above tables that are dates throughout. */
function besideTypes(
  profile: TableProfile,
  within: string | undefined,
): { name: string; set: Omit<TypeSet, 'columns'> }[] {
  return profile.table.fields.flatMap((field) => {
    if (field.nameOrigin !== 'beside' || field.name === within || field.column.type !== 'text') return [];
    const texts = [...usedTexts(field.column)];
    const found = texts.length > 1 && texts.every((text) => /\d/.test(text)) ? patternsFor(texts) : undefined;
    return found === undefined ? [] : [{ name: field.name, set: found }];
  });
}

/** Columns of dates, with their days since 1970. */
function dayColumns(profile: TableProfile): { name: string; days: Float64Array }[] {
  return profile.columns.flatMap((column) => {
    if (column.counts[CellKind.date]! < profile.rows * 0.5) return [];
    const own = profile.table.fields[column.index]!.column;
    const texts = writtenTexts(own).filter((text) => !SERIAL.test(text.trim()));
    const patterns = texts.length === 0 ? [] : patternsFor(texts)?.patterns;
    if (patterns === undefined) return [];
    const form = {
      type: 'date' as const,
      number: NumberForm.parse({}),
      patterns: compilePatterns('date', patterns, 'any', 1950),
    };
    return [{ name: column.name, days: toCounted(own, form).column.values }];
  });
}

const SERIAL = /^\d{5}(?:\.\d+)?$/;

/** How many figures of a column of dates are days as workbooks count them, from 1927 to 2064; 0 where any is not. */
function serials(column: ColumnProfile): number {
  const figures = column.counts[CellKind.figure]!;
  if (figures === 0 || column.counts[CellKind.date]! < figures) return 0;
  return column.values.every((value) => Number.isNaN(value) || (value >= 10_000 && value < 60_000)) ? figures : 0;
}

/** How a column of figures reads by the marks of the whole table. */
function readingOf(column: ColumnProfile, profile: TableProfile, decimal = profile.decimal): NumberReading {
  const field = profile.table.fields[column.index]!.column;
  const key = `${decimal}${profile.decimal}`;
  const known = readings.get(field) ?? new Map<string, NumberReading>();
  const reading = known.get(key) ?? readAs(column, field, profile, decimal);
  readings.set(field, known.set(key, reading));
  return reading;
}

/** By the marks that it is read with and those of the table. */
const readings = new WeakMap<Column, Map<string, NumberReading>>();

function readAs(column: ColumnProfile, field: Column, profile: TableProfile, decimal: '.' | ','): NumberReading {
  const texts = writtenTexts(field);
  const reading = numberReading(texts, decimal);
  // Numbers that the file stores as numbers need no reading.
  const type = texts.length === 0 ? 'number' : reading.type;
  if (type === undefined) return reading;
  const whole = column.values.every((value) => Number.isNaN(value) || Number.isInteger(value));
  return { ...reading, type: decimal === profile.decimal ? (whole ? 'whole' : 'number') : type };
}

/** The marks are named where a cell has one that needs it. */
function numberSet(
  column: ColumnProfile,
  profile: TableProfile,
  { type, number }: NumberReading,
): Omit<TypeSet, 'columns'> {
  const isMarked =
    number.decimal === ',' &&
    writtenTexts(profile.table.fields[column.index]!.column).some((text) => /[.,]/.test(text));
  return { type: type!, ...(isMarked ? { number: { decimal: ',', grouping: 'any' } } : {}) };
}

/** Dates that could begin with the day or the month. */
function dayDoubt(profile: TableProfile, column: ColumnProfile): Doubt | undefined {
  const pairs = [...usedTexts(profile.table.fields[column.index]!.column)].flatMap((text) => {
    const match = /^(\d{1,2})[/-](\d{1,2})[/-]\d{2,4}/.exec(text.trim());
    return match === null ? [] : [[Number(match[1]), Number(match[2])] as const];
  });
  const isOpen = pairs.length > 0 && pairs.every(([a, b]) => a <= 12 && b <= 12) && pairs.some(([a, b]) => a !== b);
  return isOpen ? { code: 'day-or-month', column: column.name } : undefined;
}

/** A figure somewhere in the table is written as only one of the two decimal marks can. */
function isProven(profile: TableProfile): boolean {
  return (
    profile.isDecimalKnown ||
    profile.columns.some(
      (column) =>
        column.counts[CellKind.figure]! > 0 &&
        column.texts.some((text) => /\d[.,]\d{1,2}(?!\d)\D*$|\d[.,]\d{4,}|[.,]\d{3}[.,]\d/.test(text.trim())),
    )
  );
}
