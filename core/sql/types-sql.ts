/** Texts as numbers and dates: what is surely a number is read, what is surely none is null, and all else stops the script. */
import type { SetType } from '../steps/cells/set-types.ts';
import type { Field } from '../table/table.ts';
import { sampleTexts, usedTexts } from '../values/cell-text.ts';
import { DEFAULT_PATTERNS } from '../values/convert.ts';
import type { Dialect } from './dialect.ts';
import { needReadable, sqlType, type TranslationInput, UnsupportedInSql } from './translate.ts';

/** Texts that are looked at to tell whether a script could read them. */
const SAMPLE = 100_000;
const DIGIT = '[0-9]';

/**
 * A column as a type, as the step reads it.
 * @param text its text without outer blanks
 * @throws UnsupportedInSql where it holds what only the step reads
 */
export function typedSql(field: Field, form: SetType, text: string, { dialect, isStrict }: TranslationInput): string {
  const from = sqlType(field);
  const cell = dialect.id(field.name);
  if (from === form.type) return cell;
  if (from !== 'text') {
    needReadable(field);
    if (from === 'whole' && form.type === 'number') return `cast(${cell} as ${dialect.types.number})`;
    throw new UnsupportedInSql(`how ${field.name} turns from ${from} to ${form.type} is not said`);
  }
  switch (form.type) {
    case 'number':
    case 'whole':
      return numberSql(field, form, text, dialect, isStrict);
    case 'date':
    case 'time':
    case 'datetime':
      return dateSql(field, form, text, dialect, isStrict);
    default:
      throw new UnsupportedInSql(`how ${field.name} is read as ${form.type} is not said`);
  }
}

function numberSql(field: Field, form: SetType, text: string, dialect: Dialect, isStrict: boolean): string {
  const { decimal, grouping } = { decimal: '.' as const, grouping: 'any' as const, ...form.number };
  if (form.serial !== undefined) throw new UnsupportedInSql(`${field.name} may hold workbook serials`);
  if (field.column.type === 'received' && decimal === ',')
    throw new UnsupportedInSql(`${field.name} mixes numbers and texts`);
  const mark = grouping === 'any' ? (decimal === '.' ? ',' : '.') : grouping;
  const group = mark === 'none' ? '' : `|[0-9]{1,3}([${mark}][0-9]{3})+`;
  const pattern = `^[+-]?([0-9]+${group})([${decimal}][0-9]+)?$`;
  refuseOthers(field, [pattern]);
  const ungrouped = mark === 'none' ? text : `replace(${text}, ${dialect.text(mark)}, '')`;
  const plain = decimal === ',' ? `replace(${ungrouped}, ',', '.')` : ungrouped;
  // No minus stands before a zero.
  const value = `cast(${plain} as ${dialect.types.number}) + 0`;
  const read =
    form.type === 'number'
      ? value
      : `case when ${value} = floor(${value}) then cast(${value} as ${dialect.types.whole})${isStrict ? ` else ${dialect.refuse(text, 'whole')}` : ''} end`;
  return decided(dialect, text, [[pattern, read]], form.type, isStrict);
}

/** Cases of a text: its patterns in order, null where it holds no digit (or nothing, if strict), and a stop for whatever else stands there. */
function decided(
  dialect: Dialect,
  text: string,
  cases: readonly (readonly [pattern: string, read: string])[],
  type: SetType['type'],
  isStrict: boolean,
): string {
  return [
    'case',
    ...cases.map(([pattern, read]) => `        when ${dialect.fits(text, pattern)} then ${read}`),
    `        when ${isStrict ? `${text} <> ''` : dialect.fits(text, DIGIT)} then ${dialect.refuse(text, type)}`,
    '    end',
  ].join('\n');
}

/** @throws UnsupportedInSql where the column holds a text that the script would stop at: one with a digit that fits no pattern */
function refuseOthers(field: Field, patterns: readonly string[]): void {
  const [digit, ...read] = [DIGIT, ...patterns].map((pattern) => new RegExp(pattern));
  const { column } = field;
  const texts =
    column.type === 'text' && column.dictionary.length > SAMPLE ? sampleTexts(column, SAMPLE) : usedTexts(column);
  for (const one of texts) {
    const text = one.trim();
    if (digit!.test(text) && !read.some((pattern) => pattern.test(text)))
      throw new UnsupportedInSql(`${field.name} holds '${text}', which SQL does not read so`);
  }
}

/** Pieces of a pattern (UTS #35) that a script reads, and the digits of each. */
const PIECES: Record<string, string> = {
  yyyy: '[0-9]{4}',
  MM: '[0-9]{2}',
  M: '[0-9]{1,2}',
  dd: '[0-9]{2}',
  d: '[0-9]{1,2}',
  HH: '[0-9]{2}',
  H: '[0-9]{1,2}',
  mm: '[0-9]{2}',
  ss: '[0-9]{2}',
};

interface Read {
  pattern: string;
  sql: string;
}

function dateSql(field: Field, form: SetType, text: string, dialect: Dialect, isStrict: boolean): string {
  const type = form.type as 'date' | 'time' | 'datetime';
  if (form.serial !== undefined || form.zone !== undefined || dialect.makesDates === undefined)
    throw new UnsupportedInSql(`how ${field.name} is read as ${type} is not said`);
  if (field.column.type === 'received' && field.column.tags.some((tag) => tag > 1))
    throw new UnsupportedInSql(`${field.name} mixes texts and other cells`);
  const given = form.patterns === undefined || form.patterns.length === 0 ? DEFAULT_PATTERNS[type] : form.patterns;
  // Patterns that are no part of a script are those of texts at which it stops.
  const reads = given.flatMap((pattern) => readOf(pattern, type, text, dialect) ?? []);
  if (reads.length === 0) throw new UnsupportedInSql(`the pattern ${given[0]} is not said`);
  refuseOthers(
    field,
    reads.map(({ pattern }) => pattern),
  );
  return decided(
    dialect,
    text,
    reads.map(({ pattern, sql }) => [
      pattern,
      // A day that its month does not have.
      isStrict ? sql.replace(/ end$/, ` else ${dialect.refuse(text, type)} end`) : sql,
    ]),
    type,
    isStrict,
  );
}

/** How a text of one pattern is read; null where its day is none of its month. */
function readOf(pattern: string, type: 'date' | 'time' | 'datetime', text: string, dialect: Dialect): Read | undefined {
  const tokens = pattern.match(/'[^']+'|([a-zA-Z])\1*|[^a-zA-Z']/g);
  // A bracket cannot hold these two alone, as it does other signs.
  if (tokens === null || tokens.join('') !== pattern || /[\\^]/.test(pattern)) return undefined;
  const expression = (wanted: string | undefined) =>
    `^${tokens
      .map((token) => {
        const digits = PIECES[token];
        if (digits !== undefined) return token === wanted ? `(${digits})` : digits;
        return (token.startsWith("'") ? token.slice(1, -1) : token)
          .replace(/[\\^$.*+?()[\]{}|]/g, '[$&]')
          .replace(/ /g, '[ ]');
      })
      .join('')}$`;
  if (tokens.some((token) => PIECES[token] === undefined && /^[a-zA-Z]/.test(token))) return undefined;
  const number = (...names: string[]) => {
    const name = names.find((one) => tokens.includes(one));
    return name === undefined ? undefined : `cast(${dialect.group(text, expression(name))} as integer)`;
  };
  const [year, month, day] = [number('yyyy'), number('MM', 'M'), number('dd', 'd')];
  const [hour, minute, second] = [number('HH', 'H'), number('mm'), number('ss')];
  const hasDate = year !== undefined && month !== undefined && day !== undefined;
  const hasTime = hour !== undefined && minute !== undefined;
  if (hasDate !== (type !== 'time') || hasTime !== (type !== 'date')) return undefined;
  const isDay = `${month} between 1 and 12 and ${day} between 1 and ${lastDay(year!, month!)}`;
  const isTime = `${hour} < 24 and ${minute} < 60${second === undefined ? '' : ` and ${second} < 60`}`;
  const sql =
    type === 'date'
      ? `case when ${isDay} then make_date(${year}, ${month}, ${day}) end`
      : type === 'time'
        ? `case when ${isTime} then make_time(${hour}, ${minute}, ${second ?? 0}) end`
        : `case when ${isDay} and ${isTime} then make_timestamp(${year}, ${month}, ${day}, ${hour}, ${minute}, ${second ?? 0}) end`;
  return { pattern: expression(undefined), sql };
}

function lastDay(year: string, month: string): string {
  return `case when ${month} in (4, 6, 9, 11) then 30 when ${month} <> 2 then 31 when ${year} % 4 = 0 and (${year} % 100 <> 0 or ${year} % 400 = 0) then 29 else 28 end`;
}
