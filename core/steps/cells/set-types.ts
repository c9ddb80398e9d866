import { z } from 'zod';
import { ColumnSet, chosenColumns, columnSetText } from '../../kinds/column-set.ts';
import { columnsPhrase, namesPhrase } from '../../kinds/headline.ts';
import { blank } from '../../kinds/sentence.ts';
import { type Notice, type StepDescriptor, StepFailure, stepKind } from '../../kinds/step.ts';
import { type Column, type CountedColumn, Tag } from '../../table/column.ts';
import { fromColumn } from '../../table/origin.ts';
import { flags } from '../../table/vectors.ts';
import { sampleTexts, textView, writtenTexts } from '../../values/cell-text.ts';
import { areYesNo, type Converted, compilePatterns, readText, toCounted, toText } from '../../values/convert.ts';
import { counted, few, grouped } from '../../values/counted.ts';
import { readDate } from '../../values/date-text.ts';
import { doubtsOf, doubtText, type NumberReading, numberReading } from '../../values/number-column.ts';
import { exceedsExact, leadsWithZero, NumberForm } from '../../values/number-text.ts';
import { zoneOf } from '../../values/zones.ts';

export const SetType = z.object({
  columns: ColumnSet,
  type: z.enum(['text', 'whole', 'number', 'yesno', 'date', 'time', 'datetime']),
  number: NumberForm.optional().describe('How numbers are written'),
  patterns: z.array(z.string()).optional().describe('UTS #35 patterns, tried in order'),
  language: z.string().optional().describe('Language of month names; any by default'),
  serial: z
    .union([z.literal(1900), z.literal(1904)])
    .optional()
    .describe('Numbers are workbook serials in this date system'),
  zone: z
    .string()
    .optional()
    .describe(
      'Times with an offset are turned to this zone: UTC, +01:00 or a name such as Europe/Lisbon; without it the clock stays as written',
    ),
  windowFrom: z.number().int().optional().describe('First year that two digits may mean; 1950 by default'),
});
export type SetType = z.infer<typeof SetType>;

export const TYPE_WORDS: Record<SetType['type'], string> = {
  text: 'text',
  whole: 'whole number',
  number: 'number',
  yesno: 'yes/no',
  date: 'date',
  time: 'time',
  datetime: 'date and time',
};

import { patternsFor } from './type-patterns.ts';

const Params = z.object({ types: z.array(SetType).min(1) });
type Params = z.infer<typeof Params>;

/** How many of a type's examples a guess looks at. */
const SAMPLE = 2000;
export const setTypesWords: StepDescriptor<Params> = {
  kind: 'set-types',
  rowByRow: true,
  title: 'Set types',
  summary: 'Sets the type of columns: text, numbers, dates, times; unreadable cells keep their text',
  searchTerms: ['change type', 'to number', 'to date', 'convert', 'cast', 'parse', 'data type'],
  params: Params,
  headline: ({ types }) =>
    `Set types of ${namesPhrase(types.flatMap(({ columns }) => (columns.by === 'names' ? columns.names : [columnsPhrase(columns)])))}`,
  sentence: (params) => ['Set types: ', blank('types', typesText(params), { as: 'types', label: 'Types of columns' })],
};

export const setTypes = /* @__PURE__ */ stepKind<Params>(setTypesWords, {
  start: (table, columns) => {
    const names =
      columns.length > 0 ? columns : table.fields.filter((f) => f.nameOrigin !== 'beside').map((f) => f.name);
    const groups = new Map<string, SetType & { columns: { by: 'names'; names: string[] } }>();
    for (const name of names) {
      const guess = guessType(table.fields.find((field) => field.name === name)!.column);
      const key = JSON.stringify(guess);
      const group = groups.get(key) ?? { ...guess, columns: { by: 'names' as const, names: [] } };
      group.columns.names.push(name);
      groups.set(key, group);
    }
    const types = [...groups.values()];
    return { types: types.length > 0 ? types : [{ columns: { by: 'names', names: [] }, type: 'text' }] };
  },
  run(input, params, context) {
    const fields = [...input.fields];
    const notices: Notice[] = [];
    let figures = 0;
    let unreadable = 0;
    params.types.forEach((set, k) => {
      const patterns = patternsOf(set);
      const form = {
        type: set.type as CountedColumn['type'],
        number: set.number ?? NumberForm.parse({}),
        patterns,
        serial: set.serial,
      };
      for (const index of chosenColumns(set.columns, input)) {
        const field = fields[index]!;
        if (set.type === 'text') {
          fields[index] = { ...field, column: toText(field.column) };
          continue;
        }
        const converted = toCounted(field.column, form);
        const { column } = converted;
        if (set.type === 'number' || set.type === 'whole')
          notices.push(
            ...(converted.mayLose ? lossNotices(field.name, field.column) : []),
            ...numberNotices(field.name, field.column, form.number),
          );
        notices.push(...doubtfulDays(field.name, field.column, set), ...offsetNotices(field.name, field.column, set));
        fields[index] = { ...field, column };
        if (converted.unreadable.length > 0) notices.push(unreadableNotice(field.name, converted));
        unreadable += converted.unreadable.length;
        figures += converted.filled;
      }
      context.progress((k + 1) / params.types.length);
    });
    notices.unshift({
      severity: 'info',
      text: `${counted(figures, 'value')} read, ${grouped(unreadable)} unreadable`,
    });
    return {
      table: { rows: input.rows, fields },
      origin: input.fields.map((_, k) => fromColumn(k)),
      aside: [],
      notices,
    };
  },
});

function patternsOf(set: SetType) {
  if (set.type === 'text') return [];
  try {
    const zone = set.zone === undefined || set.zone.trim() === '' ? undefined : zoneOf(set.zone);
    return compilePatterns(set.type, set.patterns, set.language ?? 'any', set.windowFrom ?? 1950, zone);
  } catch (error) {
    throw new StepFailure((error as Error).message);
  }
}

function typesText(params: Params): string {
  return params.types
    .map((set) => {
      const how =
        set.patterns !== undefined && set.patterns.length > 0 ? ` (${set.patterns.join(' or ')})` : numberText(set);
      return `${columnSetText(set.columns)} ${TYPE_WORDS[set.type]}${how}`;
    })
    .join('; ');
}

function numberText(set: SetType): string {
  return set.number?.decimal === ',' ? ' (decimal comma)' : '';
}

function unreadableNotice(name: string, { column, unreadable }: Converted): Notice {
  const examples = column.unreadable!.cells.slice(0, 3).map((cell) => `'${cell.text}' (${cell.reason})`);
  return {
    severity: 'warning',
    text: `${counted(unreadable.length, 'cell')} of ${name} unreadable: ${examples.join(', ')}`,
    rows: { of: 'after', rows: Int32Array.from(unreadable) },
    column: name,
  };
}

/** Dates whose day and month could both be either are reported when every one of them reads both ways. */
function doubtfulDays(name: string, column: Column, set: SetType): Notice[] {
  if ((set.type !== 'date' && set.type !== 'datetime') || (column.type !== 'text' && column.type !== 'received'))
    return [];
  const doubtful = set.patterns?.find((pattern) => /^d+\W+M{1,2}\W/.test(pattern) || /^M{1,2}\W+d+\W/.test(pattern));
  if (doubtful === undefined) return [];
  const swapped = doubtful.replace(/[dM]/g, (letter) => (letter === 'd' ? 'M' : 'd'));
  const [own, other] = [doubtful, swapped].map(
    (pattern) => compilePatterns(set.type as 'date' | 'datetime', [pattern], set.language ?? 'any', 1950)[0]!,
  );
  const texts = sampleTexts(column, SAMPLE);
  const reads = (text: string, pattern: typeof own) => typeof readDate(text, pattern!) === 'number';
  const fitting = texts.filter((text) => reads(text, own));
  if (fitting.length === 0 || !fitting.every((text) => reads(text, other)) || fitting.every((text) => sameDay(text)))
    return [];
  const first = doubtful.startsWith('d') ? 'month first' : 'day first';
  return [
    {
      severity: 'warning',
      text: `every date of ${name} could also be read ${first} (${swapped}), as ${fitting[0]}`,
      column: name,
    },
  ];
}

/** What is open about texts that are read as numbers: marks, units, texts that become one number. */
function numberNotices(name: string, column: Column, form: NumberForm): Notice[] {
  if (column.type !== 'text' && column.type !== 'received') return [];
  return doubtsOf(column.type === 'text' ? sampleTexts(column, SAMPLE) : writtenTexts(column), form.decimal).map(
    (doubt) => ({
      severity: 'warning',
      text: doubtText(name, doubt),
      column: name,
    }),
  );
}

/** Offsets after the times: the clock is kept as written unless a zone is stated. */
function offsetNotices(name: string, column: Column, set: SetType): Notice[] {
  if ((set.type !== 'datetime' && set.type !== 'time') || (column.type !== 'text' && column.type !== 'received'))
    return [];
  const offsets = new Set<string>();
  for (const text of textView(column).texts) {
    const offset = /(?<=\d) ?(Z|[+-]\d\d(?::?\d\d)?)$/.exec(text.slice(-8).trim())?.[1];
    if (offset !== undefined && /:\d\d/.test(text)) offsets.add(offset);
  }
  if (offsets.size === 0) return [];
  const stated = set.zone !== undefined && set.zone.trim() !== '';
  return [
    {
      severity: offsets.size > 1 && !stated ? 'warning' : 'info',
      text: stated
        ? `times of ${name} turned from ${few([...offsets])} to ${set.zone}`
        : `times of ${name} kept as written, their offsets (${few([...offsets])}) left out`,
      column: name,
    },
  ];
}

/** Day and month are the same number, so both ways give one date. */
function sameDay(text: string): boolean {
  const [a, b] = text.match(/\d+/g) ?? [];
  return Number(a) === Number(b);
}

/** What a number would not keep: zeros in front, and digits past 2^53. */
function lossNotices(name: string, column: Column): Notice[] {
  if (column.type !== 'text' && column.type !== 'received') return [];
  const { codes, texts } = textView(column);
  const notices: Notice[] = [];
  const tell = (test: (text: string) => boolean, what: string) => {
    const hit = flags(texts, (text) => test(text));
    if (!hit.includes(1)) return;
    const rows: number[] = [];
    codes.forEach((code, r) => {
      if (code >= 0 && hit[code] === 1) rows.push(r);
    });
    if (rows.length === 0) return;
    const examples = texts.filter((_, code) => hit[code] === 1).slice(0, 3);
    notices.push({
      severity: 'warning',
      text: `${counted(rows.length, 'cell')} of ${name} ${what}: ${examples.join(', ')}`,
      rows: { of: 'before', rows: Int32Array.from(rows) },
      column: name,
    });
  };
  tell(leadsWithZero, 'lose zeros in front');
  tell(exceedsExact, 'have more digits than a number keeps');
  return notices;
}

/** Texts as numbers with either decimal mark: whole ones first, then those without a doubt. */
function bestReading(texts: readonly string[]): NumberReading | undefined {
  const readings = (['.', ','] as const).map((decimal) => numberReading(texts, decimal));
  return (
    readings.find((one) => one.type === 'whole') ??
    readings.find((one) => one.type === 'number' && one.doubts.length === 0) ??
    readings.find((one) => one.type !== undefined)
  );
}

/** The numbers that a report stores as such; undefined where it stores dates or other values too. */
function storedNumbers(column: Column): number[] | undefined {
  if (column.type !== 'received') return [];
  const numbers: number[] = [];
  for (const [r, tag] of column.tags.entries()) {
    if (tag === Tag.number) numbers.push(column.values[r]!);
    else if (tag !== Tag.blank && tag !== Tag.text) return undefined;
  }
  return numbers;
}

/** The narrowest type that takes every text of the column, or text. */
function guessType(column: Column): Omit<SetType, 'columns'> {
  if (column.type !== 'text' && column.type !== 'received') return { type: column.type };
  const texts = sampleTexts(column, SAMPLE).filter((text) => text.trim() !== '');
  if (texts.length === 0) return { type: 'text' };
  if (areYesNo(texts)) return { type: 'yesno' };
  // Cells that are stored as numbers say nothing of how the others are written.
  const written = column.type === 'text' ? texts : writtenTexts(column);
  const reads = (form: Parameters<typeof readText>[1]) =>
    texts.every((text) => !Number.isNaN(readText(text, form).value));
  const stored = storedNumbers(column);
  if (stored !== undefined) {
    const whole = stored.every(Number.isInteger);
    if (written.length === 0) return { type: whole ? 'whole' : 'number' };
    const reading = bestReading(written);
    if (reading?.type !== undefined) {
      const type = whole ? reading.type : 'number';
      return reading.number.decimal === '.' ? { type } : { type, number: reading.number };
    }
  }
  // The ISO forms may stand beside each other in one column: with seconds, without, with an offset.
  for (const type of ['time', 'date', 'datetime'] as const) {
    const usual = compilePatterns(type, undefined, 'any', 1950);
    if (reads({ type, number: NumberForm.parse({}), patterns: usual })) return { type };
  }
  const found = patternsFor(texts);
  if (found !== undefined) return found;
  return { type: 'text' };
}
