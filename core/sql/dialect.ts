/** How each dialect says what the standard leaves open, or what it says in its own way. */
import type { ColumnType } from '../table/column.ts';

export const DIALECTS = ['duckdb', 'postgres', 'spark', 'ansi'] as const;
export type DialectName = (typeof DIALECTS)[number];

/** As numbers are added, without the error of doubles. */
const DECIMAL = 'decimal(38, 10)';

/** What SQL keeps a column as. A column of several kinds is text. */
export type SqlType = Exclude<ColumnType, 'received'>;

export interface Dialect {
  name: DialectName;
  title: string;
  /** Names that differ by case alone are the same to it, in quotes too. */
  foldsNames?: true;
  /** Longer names are cut. */
  maxNameBytes?: number;
  /** A name of a column or table. */
  id(name: string): string;
  text(text: string): string;
  types: Readonly<Record<SqlType, string>>;
  /** Without the blanks of ECMAScript on both sides. */
  trim(text: string): string;
  /** Whether a text fits a regular expression of brackets, classes and counts, which all dialects read alike. */
  fits(text: string, pattern: string): string;
  /** What stands in the only group of such an expression. */
  group(text: string, pattern: string): string;
  /** An expression that always fails, and whose message holds the text. */
  refuse(text: string, type: SqlType): string;
  /** A number as a decimal, every digit of its shortest text; one with more digits than the decimal has stops the script. */
  decimal(number: string): string;
  /** The number nearest to a decimal. */
  nearest(decimal: string): string;
  /** The mean of numbers, rounded once; undefined where the dialect rounds on the way. */
  mean?(number: string): string;
  /** What is left over of one number divided by another. */
  remainder(of: string, by: string): string;
  /** Text by code points, for comparisons and order. */
  plain(text: string): string;
  /** Joins to each row some rows of expressions over it, under these names. */
  eachOf(rows: readonly (readonly string[])[], names: readonly string[]): string;
  /** Has make_date, make_time and make_timestamp. */
  makesDates?: true;
  /** Pieces of a text between delimiters; undefined where the dialect has no such thing. */
  pieces?: {
    split(text: string, delimiter: string): string;
    /** @param place from 1; null behind the last */
    at(pieces: string, place: number): string;
    /** Those from a place on, with their delimiters between them; null where there are none. */
    from(pieces: string, place: number, delimiter: string): string;
    /** Joins to each row one for each piece: "piece", and "place" from 1. */
    each(text: string, delimiter: string): string;
  };
  /** The text of the first or last row, by the column of the rows' order, in which a condition holds. */
  picked?(value: string, order: string, which: 'first' | 'last'): string;
  median?(value: string): string;
  joined?(value: string, between: string, order: string): string;
  /** Part of a date. */
  part(part: 'year' | 'quarter' | 'month' | 'week' | 'isodow' | 'day', date: string): string;
  /** A Parquet file as a table; undefined where only a table of the database can be named. */
  file?(path: string): string;
}

/** The line ends and blanks of ECMAScript (ECMA-262, 12.2 and 12.3), as the inside of a class. */
const BLANKS = String.raw`\t\n\x0B\f\r \u00A0\u1680\u2000-\u200A\u2028\u2029\u202F\u205F\u3000\uFEFF`;

const quoted = (name: string) => `"${name.replaceAll('"', '""')}"`;
const literal = (text: string) => `'${text.replaceAll("'", "''")}'`;
const leftOver = (of: string, by: string) => `(${of}) % (${by})`;

/** A number in its shortest text has at most the 15 digits up to which amounts are computed as decimals here. */
const hasFewDigits = (text: string) => `length(ltrim(regexp_replace(${text}, 'e.*$|[.]0$|[-.]', '', 'g'), '0')) <= 15`;

const ANSI: Dialect = {
  name: 'ansi',
  title: 'standard SQL',
  id: quoted,
  text: literal,
  types: {
    text: 'varchar',
    number: 'double precision',
    whole: 'bigint',
    yesno: 'boolean',
    date: 'date',
    time: 'time',
    datetime: 'timestamp',
  },
  trim: (text) => `translate_regex('^[\\s\\p{Z}]+|[\\s\\p{Z}]+$' in ${text} with '' occurrence all)`,
  fits: (text, pattern) => `${text} like_regex ${literal(pattern)}`,
  group: (text, pattern) => `substring_regex(${literal(pattern)} in ${text} group 1)`,
  refuse: (text, type) => `cast('not read: ' || ${text} as ${ANSI.types[type]})`,
  decimal: (number) => `cast(${number} as ${DECIMAL})`,
  nearest: (decimal) => `cast(${decimal} as ${ANSI.types.number})`,
  remainder: (of, by) => `mod(${of}, ${by})`,
  plain: (text) => text,
  eachOf: (rows, names) =>
    `cross join lateral (values\n${rows.map((row) => `    (${row.join(', ')})`).join(',\n')}\n) as names(${names.join(', ')})`,
  part: (part, date) => `extract(${part} from ${date})`,
};

const DUCKDB: Dialect = {
  ...ANSI,
  name: 'duckdb',
  foldsNames: true,
  makesDates: true,
  title: 'DuckDB',
  types: { ...ANSI.types, number: 'double' },
  trim: (text) => `regexp_replace(${text}, '^[\\s\\v\\pZ\\x{FEFF}]+|[\\s\\v\\pZ\\x{FEFF}]+$', '', 'g')`,
  fits: (text, pattern) => `regexp_matches(${text}, ${literal(pattern)})`,
  group: (text, pattern) => `regexp_extract(${text}, ${literal(pattern)}, 1)`,
  refuse: (text, type) =>
    type === 'text' ? `error('not read: ' || ${text})` : `cast('not read: ' || ${text} as ${DUCKDB.types[type]})`,
  // By way of text: a double times a power of ten is not exact.
  decimal: (number) => {
    const text = `cast(${number} as varchar)`;
    const own = `cast(${text} as ${DECIMAL})`;
    const fits = `cast(cast(${own} as varchar) as double) = ${number} and ${hasFewDigits(text)}`;
    return `case when ${fits} then ${own} when ${number} is not null then cast('more than 15 digits or 10 decimals: ' || ${number} as ${DECIMAL}) end`;
  },
  nearest: (decimal) => `cast(cast(${decimal} as varchar) as double)`,
  remainder: leftOver,
  pieces: {
    split: (text, delimiter) => `string_split(${text}, ${literal(delimiter)})`,
    at: (pieces, place) => `${pieces}[${place}]`,
    from: (pieces, place, delimiter) => `nullif(array_to_string(${pieces}[${place}:], ${literal(delimiter)}), '')`,
    each: (text, delimiter) =>
      `left join lateral unnest(string_split(${text}, ${literal(delimiter)})) with ordinality as pieces(piece, place) on true`,
  },
  picked: (value, order, which) => `${which === 'first' ? 'arg_min' : 'arg_max'}(${value}, ${order})`,
  median: (value) => `median(${value})`,
  joined: (value, between, order) => `string_agg(${value}, ${literal(between)} order by ${order})`,
  file: (path) => `read_parquet(${literal(path)})`,
};

const POSTGRES: Dialect = {
  ...ANSI,
  name: 'postgres',
  makesDates: true,
  title: 'PostgreSQL',
  maxNameBytes: 63,
  types: { ...ANSI.types, text: 'text' },
  trim: (text) => `regexp_replace(${text}, '^[${BLANKS}]+|[${BLANKS}]+$', '', 'g')`,
  fits: (text, pattern) => `${text} ~ ${literal(pattern)}`,
  group: (text, pattern) => `(regexp_match(${text}, ${literal(pattern)}))[1]`,
  // No cast of a text to text fails: a number is read of it first.
  refuse: (text, type) =>
    type === 'text'
      ? `cast(cast('not read: ' || ${text} as integer) as text)`
      : `cast('not read: ' || ${text} as ${POSTGRES.types[type]})`,
  // By way of text: a cast to numeric keeps 15 digits.
  decimal: (number) => {
    const text = `cast(${number} as text)`;
    const own = `cast(${text} as numeric)`;
    return `case when scale(${own}) <= 22 and ${hasFewDigits(text)} then ${own} when ${number} is not null then cast('more than 15 digits or 22 decimals: ' || ${number} as numeric) end`;
  },
  nearest: (decimal) => `cast(cast(${decimal} as text) as double precision)`,
  mean: (number) =>
    `cast(cast(cast(sum(${POSTGRES.decimal(number)}) as numeric(1000, 60)) / count(${number}) as text) as double precision)`,
  remainder: leftOver,
  plain: (text) => `${text} collate "C"`,
  pieces: {
    split: (text, delimiter) => `string_to_array(${text}, ${literal(delimiter)})`,
    at: (pieces, place) => `(${pieces})[${place}]`,
    from: (pieces, place, delimiter) => `nullif(array_to_string((${pieces})[${place}:], ${literal(delimiter)}), '')`,
    each: (text, delimiter) =>
      `left join lateral unnest(string_to_array(${text}, ${literal(delimiter)})) with ordinality as pieces(piece, place) on true`,
  },
  picked: (value, order, which) =>
    `(array_agg(${value} order by ${order}${which === 'last' ? ' desc' : ''}) filter (where ${value} is not null))[1]`,
  median: (value) => `percentile_cont(0.5) within group (order by ${value})`,
  joined: (value, between, order) => `string_agg(${value}, ${literal(between)} order by ${order})`,
};

const SPARK: Dialect = {
  ...ANSI,
  name: 'spark',
  foldsNames: true,
  title: 'Spark',
  id: (name) => `\`${name.replaceAll('`', '``')}\``,
  text: (text) => `'${text.replaceAll('\\', '\\\\').replaceAll("'", "\\'")}'`,
  types: { ...ANSI.types, text: 'string', number: 'double', time: 'string' },
  trim: (text) => `regexp_replace(${text}, '^[\\\\s\\\\x0B\\\\p{Z}\\\\uFEFF]+|[\\\\s\\\\x0B\\\\p{Z}\\\\uFEFF]+$', '')`,
  fits: (text, pattern) => `${text} rlike ${SPARK.text(pattern)}`,
  group: (text, pattern) => `regexp_extract(${text}, ${SPARK.text(pattern)}, 1)`,
  decimal: (number) => `cast(cast(${number} as string) as ${DECIMAL})`,
  nearest: (decimal) => `cast(cast(${decimal} as string) as double)`,
  refuse: (text, type) => `cast(raise_error(concat('not read: ', ${text})) as ${SPARK.types[type]})`,
  remainder: leftOver,
  pieces: {
    split: (text, delimiter) => `split(${text}, ${SPARK.text(quotedPattern(delimiter))})`,
    at: (pieces, place) => `get(${pieces}, ${place - 1})`,
    from: (pieces, place, delimiter) =>
      `nullif(array_join(slice(${pieces}, ${place}, greatest(size(${pieces}) - ${place - 1}, 0)), ${SPARK.text(delimiter)}), '')`,
    each: (text, delimiter) =>
      `lateral view outer posexplode(split(${text}, ${SPARK.text(quotedPattern(delimiter))})) pieces as place, piece`,
  },
  picked: (value, order, which) =>
    `${which === 'first' ? 'min_by' : 'max_by'}(${value}, ${order}) filter (where ${value} is not null)`,
  median: (value) => `median(${value})`,
  eachOf: (rows, names) =>
    `lateral view inline(array(\n${rows.map((row) => `    struct(${row.join(', ')})`).join(',\n')}\n)) names as ${names.join(', ')}`,
  file: (path) => `parquet.\`${path}\``,
  part: (part, date) => `extract(${part === 'isodow' ? 'dayofweek_iso' : part} from ${date})`,
};

function quotedPattern(text: string): string {
  return text.replace(/[\\^$.*+?()[\]{}|]/g, '\\$&');
}

export const DIALECT: Readonly<Record<DialectName, Dialect>> = {
  duckdb: DUCKDB,
  postgres: POSTGRES,
  spark: SPARK,
  ansi: ANSI,
};
