import { z } from 'zod';
import { blank, option, type Phrase } from '../kinds/sentence.ts';
import { type Notice, StepFailure } from '../kinds/step.ts';
import { plainName } from '../steps/header/meet-by-name.ts';
import { constantText } from '../table/builder.ts';
import { blankColumn, stackColumns } from '../table/gather.ts';
import { type Field, uniqueName } from '../table/table.ts';
import { counted, few } from '../values/counted.ts';
import { compileTemplate } from '../values/template.ts';
import { escapeRegExp } from '../values/text.ts';
import { type ArchiveFile, archiveFiles, UnpackBudget } from './archive.ts';
import { EXPECTS, expectsPhrase } from './expected-columns.ts';
import { unlikeNotices } from './likeness-of-parts.ts';
import { chosenNames, NameSet, nameSetPhrase, nameSetText } from './name-set.ts';
import { Opened } from './opened.ts';
import { ReadFailure } from './read-failure.ts';
import {
  type AnyReadKind,
  type AnyReadWords,
  type ReadKind,
  type ReadResult,
  type ReadWords,
  readKind,
  type Source,
} from './read-kind.ts';
import { PART_NAME, type Places, type Report, type ReportPart } from './report.ts';
import { isToOpen, sniff } from './sniff.ts';
import { unwrapped } from './unwrap.ts';

const Params = z.object({
  source: z.string(),
  files: NameSet.default({ by: 'all' }),
  each: z
    .object({ kind: z.string(), params: z.record(z.string(), z.unknown()) })
    .describe('The reading of each file, as the first step of a table has it'),
  nameColumn: z.string().nullable().default('File').describe("Column that takes the file's name; null: none"),
  expects: EXPECTS,
  nameTemplate: z
    .string()
    .nullable()
    .default(null)
    .describe("Pieces of the file's name that become columns, such as 'bookings-{Month}.csv'"),
});
type Params = z.infer<typeof Params>;

/** What read-files needs of the other readings; handed in so that the catalogue knows it and not the other way round. */
export interface OtherReadings {
  guess(sourceId: string, source: Source): { kind: string; params: { source: string } };
  get(kind: string): AnyReadKind | undefined;
}

/** Several files, or an archive of them, one under the other. @param wordsOf the words of the reading of each */
export function readFilesWords(wordsOf: (kind: string) => AnyReadWords | undefined): ReadWords<Params> {
  return {
    kind: 'read-files',
    title: 'Read several files',
    page: 'sheet',
    params: Params,
    headline: ({ files }) => `Read ${nameSetPhrase(files, 'files')}`,
    sentence: (params, sourceName) => [
      'Read ',
      blank('files', nameSetText(params.files, 'files'), { as: 'sheets', label: 'Which files' }),
      ` of ${sourceName}, stacked, file name in `,
      blank('nameColumn', params.nameColumn ?? 'no column', {
        as: 'text',
        label: "Column for the file's name",
        optional: true,
      }),
      option(
        params.nameTemplate === null,
        ', pieces of it by ',
        blank('nameTemplate', params.nameTemplate ?? 'no template', {
          as: 'text',
          label: "Pieces of the file's name",
          optional: true,
          hint: 'Named pieces in braces: bookings-{Month}.csv',
        }),
      ),
      expectsPhrase(params.expects),
      '. Each: ',
      ...innerSentence(wordsOf, params),
    ],
  };
}

export function readFiles(readings: OtherReadings): ReadKind<Params> {
  return readKind<Params>(readFilesWords(readings.get), {
    start: (id, source) => {
      const files = filesOf(source);
      const ending = commonEnding(files.map((file) => file.name));
      const alike = files.filter((file) => file.name.endsWith(ending));
      const { kind, params } = readings.guess(id, alike[0]!);
      return Params.parse({
        source: id,
        files: alike.length === files.length ? { by: 'all' } : { by: 'matches', pattern: `${escapeRegExp(ending)}$` },
        each: { kind, params },
        nameTemplate: guessNameTemplate(alike.map((file) => baseName(file.name))),
      });
    },
    read(source, params, context) {
      const inner = readings.get(params.each.kind);
      if (inner === undefined) throw new StepFailure(`There is no reading called ${params.each.kind} in this version.`);
      const all = filesOf(source);
      const chosen = chosenNames(
        params.files,
        all.map((file) => file.name),
        source.name,
        'file',
      ).map((k) => all[k]!);
      const innerParams = inner.params.parse({ ...params.each.params, source: params.source });
      const results = chosen.map((file, k) => {
        const whole = { ...context, progress: (done: number) => context.progress((k + done) / chosen.length) };
        try {
          return inner.read(file, innerParams, whole);
        } catch (error) {
          if (!(error instanceof ReadFailure || error instanceof StepFailure)) throw error;
          throw new StepFailure(`${file.name}: ${error.message} Leave the file out, or ask for it again.`);
        }
      });
      return stacked(chosen, results, params);
    },
  });
}

function innerSentence(wordsOf: (kind: string) => AnyReadWords | undefined, params: Params): Phrase[] {
  const inner = wordsOf(params.each.kind);
  if (inner === undefined) return [params.each.kind];
  const read = inner.params.safeParse({ ...params.each.params, source: params.source });
  if (!read.success) return [params.each.kind];
  return inner
    .sentence(read.data, 'it')
    .map((phrase) => (typeof phrase === 'string' ? phrase : { ...phrase, param: `each.params.${phrase.param}` }));
}

/** Files of archives that hold something that has to be opened, and of messages, or what went wrong with them. */
const opened = new Opened<readonly Source[] | ReadFailure>();

/** Keeps the files of a message, which it takes a while to find. */
export function keepFiles(bytes: Uint8Array, files: readonly ArchiveFile[] | ReadFailure): void {
  const room = UnpackBudget.for(bytes);
  opened.set(bytes, files instanceof ReadFailure ? files : files.map((file) => unwrapped({ ...file, room })));
}

/** The files of an archive that have to be opened before they can be read; they are kept as long as the archive is. */
export function openFiles(archive: Source): readonly Source[] {
  try {
    const files = filesOf(archive);
    const some = files.filter((file) => isToOpen(file.bytes, file.name));
    if (some.length > 0) opened.set(archive.bytes, files);
    return some;
  } catch (error) {
    // Whoever reads the archive meets the same trouble, and says so.
    if (error instanceof ReadFailure) return [];
    throw error;
  }
}

/** The files of a source, unpacked once. @throws ReadFailure */
export function filesOf(source: Source): readonly Source[] {
  const kept = source.files ?? opened.get(source.bytes);
  if (kept instanceof ReadFailure) throw kept;
  if (kept !== undefined) return kept;
  // A file that stands alone is the only one.
  if (sniff(source.bytes, source.name) !== 'files') return [source];
  if (source.bytes[0] !== 0x50)
    throw new ReadFailure(source.name, `${source.name} has not been opened yet. Open it again.`);
  source.room ??= UnpackBudget.for(source.bytes);
  const { room } = source;
  source.files = archiveFiles(source.bytes, source.name, room)
    .toSorted((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }))
    .map(({ name, bytes }) => unwrapped({ name, bytes, room }));
  return source.files;
}

export function baseName(path: string): string {
  return path.slice(path.lastIndexOf('/') + 1);
}

/** The ending that most files have. */
function commonEnding(names: readonly string[]): string {
  const counts = new Map<string, number>();
  for (const name of names) {
    const ending = /\.[^./]*$/.exec(name)?.[0] ?? '';
    counts.set(ending, (counts.get(ending) ?? 0) + 1);
  }
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? '';
}

/** What all names share stays, and what differs in one place is a piece; null where there is no such place. */
export function guessNameTemplate(names: readonly string[]): string | null {
  const [first, ...rest] = names;
  if (first === undefined || rest.length === 0 || names.some((name) => /[{}]/.test(name))) return null;
  let front = 0;
  while (front < first.length && rest.every((name) => name[front] === first[front])) front++;
  let behind = 0;
  while (
    behind < first.length - front &&
    rest.every((name) => name.length - behind > front && name.at(-1 - behind) === first.at(-1 - behind))
  )
    behind++;
  // A piece begins and ends with whole words and numbers: 2031-0 is no front of 2031-01.
  while (front > 0 && /[\p{L}\p{N}-]/u.test(first[front - 1]!)) {
    if (first[front - 1] === '-' && !/\d/.test(first[front - 2] ?? '')) break;
    front--;
  }
  while (behind > 0 && /[\p{L}\p{N}]/u.test(first.at(-behind)!)) behind--;
  if (front === 0 && behind === 0) return null;
  return `${first.slice(0, front)}{Part}${behind === 0 ? '' : first.slice(-behind)}`;
}

function stacked(files: readonly Source[], results: readonly ReadResult[], params: Params): ReadResult {
  const parts: ReportPart[] = [];
  const starts: number[] = [];
  results.forEach(({ report }, k) => {
    starts.push(parts.length);
    const name = baseName(files[k]!.name);
    for (const part of report.parts) {
      parts.push({ ...part, name: report.parts.length === 1 ? name : `${name} / ${part.name}` });
    }
  });
  const heights = results.map(({ table }) => table.rows);
  const rows = heights.reduce((sum, height) => sum + height, 0);
  const { fields, from } = stackedFields(results, heights);
  const named = nameFields(files, heights, params, fields);
  const all = [...named.fields, ...fields];
  return {
    report: { format: results[0]!.report.format, parts } satisfies Report,
    table: { rows, fields: all },
    places: stackedPlaces(results, starts, from, named.fields.length, parts.length, rows),
    notices: [...stackedNotices(files, results, heights), ...unlikeFiles(files, results, params), ...named.notices],
  };
}

/** Columns named by position meet by position, others by name. */
function stackedFields(results: readonly ReadResult[], heights: readonly number[]) {
  const keys = new Map<string, Field>();
  const indexes = results.map(({ table }) => {
    const own = new Map<string, number>();
    let position = 0;
    table.fields.forEach((field, index) => {
      // Names meet whatever their case and outer spaces; a name that stands twice in a file meets in turn.
      let key = field.nameOrigin === 'position' ? `#${position++}` : `=${plainName(field.name)}`;
      while (own.has(key)) key += '+';
      own.set(key, index);
      if (!keys.has(key)) keys.set(key, field);
    });
    return own;
  });
  const taken = new Set<string>();
  const from: number[][] = [];
  const fields = [...keys].map(([key, field]): Field => {
    const pieces = results.map(({ table }, k) => {
      const index = indexes[k]!.get(key);
      return index === undefined ? blankColumn(heights[k]!) : table.fields[index]!.column;
    });
    from.push(results.map((_, k) => indexes[k]!.get(key) ?? -1));
    return { ...field, name: uniqueName(field.name, taken), column: stackColumns(pieces) };
  });
  return { fields, from };
}

/** The file's name and its pieces, beside each row. */
function nameFields(files: readonly Source[], heights: readonly number[], params: Params, others: readonly Field[]) {
  const taken = new Set(others.map((field) => field.name));
  const fields: Field[] = [];
  const notices: Notice[] = [];
  const add = (name: string, texts: readonly (string | null)[]) =>
    fields.push({
      name: uniqueName(name, taken),
      nameOrigin: 'beside',
      column: stackColumns(
        texts.map((text, k) => (text === null ? blankColumn(heights[k]!) : constantText(text, heights[k]!))),
      ),
    });
  if (params.nameColumn !== null && params.nameColumn !== '')
    add(
      params.nameColumn,
      files.map((file) => baseName(file.name)),
    );
  if (params.nameTemplate !== null && params.nameTemplate !== '') {
    const { exec, names } = nameTemplate(params.nameTemplate);
    const matches = files.map((file) => exec(baseName(file.name)));
    names.forEach((name, k) => {
      add(
        name,
        matches.map((match) => match?.[k] ?? null),
      );
    });
    const odd = files.filter((_, k) => matches[k] === null);
    if (odd.length > 0)
      notices.push({
        severity: 'warning',
        text: `${counted(odd.length, 'file name')} without the pieces: ${few(odd.map((file) => file.name))}`,
      });
  }
  return { fields, notices };
}

function nameTemplate(template: string) {
  try {
    return compileTemplate(template);
  } catch (error) {
    throw new StepFailure(`The pieces of the file's name cannot be used. ${(error as Error).message}.`);
  }
}

function stackedPlaces(
  results: readonly ReadResult[],
  starts: readonly number[],
  from: readonly (readonly number[])[],
  nameColumns: number,
  parts: number,
  rows: number,
): Places {
  const part = new Int32Array(rows);
  const row = new Int32Array(rows);
  const height = results.some(({ places }) => places.height !== undefined) ? new Int32Array(rows).fill(1) : undefined;
  const ofPart: Int32Array[] = new Array(parts);
  const cellRows = results.some(({ places }) => places.cellRows !== undefined)
    ? from.map(() => new Int32Array(rows))
    : undefined;
  let at = 0;
  results.forEach(({ places, table, report }, k) => {
    for (let r = 0; r < table.rows; r++) {
      part[at + r] = starts[k]! + places.part[r]!;
      row[at + r] = places.row[r]!;
      if (height !== undefined) height[at + r] = places.height?.[r] ?? 1;
      cellRows?.forEach((own, c) => {
        own[at + r] = places.cellRows?.[from[c]![k]!]?.[r] ?? places.row[r]!;
      });
    }
    at += table.rows;
    for (let p = 0; p < report.parts.length; p++) {
      const columns = places.ofPart?.[p] ?? places.columns;
      ofPart[starts[k]! + p] = Int32Array.from([
        ...new Array<number>(nameColumns).fill(PART_NAME),
        ...from.map((own) => (own[k]! < 0 ? -1 : columns[own[k]!]!)),
      ]);
    }
  });
  const names = new Array<undefined>(nameColumns).fill(undefined);
  return {
    part,
    row,
    columns: ofPart[0] ?? new Int32Array(),
    ofPart,
    height,
    cellRows: cellRows === undefined ? undefined : [...names, ...cellRows],
  };
}

/** Files whose columns differ: by their headers where columns are named by position, else by their names. */
function unlikeFiles(files: readonly Source[], results: readonly ReadResult[], params: Params): Notice[] {
  const positional = results.every(({ table }) => table.fields.some((field) => field.nameOrigin === 'position'));
  if (positional) {
    const parts = results.map(({ table }, k) => ({
      name: baseName(files[k]!.name),
      rows: table.rows,
      columns: table.fields.filter((field) => field.nameOrigin === 'position').map((field) => field.column),
    }));
    return unlikeNotices(parts, params.nameColumn !== null && params.nameColumn !== '');
  }
  const names = results.map(({ table }) => new Set(table.fields.map((field) => plainName(field.name))));
  const all = new Map<string, string>();
  for (const { table } of results)
    for (const { name } of table.fields) if (!all.has(plainName(name))) all.set(plainName(name), name);
  return [...all].flatMap(([plain, name]): Notice[] => {
    const without = files.filter((_, k) => !names[k]!.has(plain)).map((file) => baseName(file.name));
    const having = files.filter((_, k) => names[k]!.has(plain)).map((file) => baseName(file.name));
    if (without.length === 0) return [];
    const text =
      without.length <= having.length
        ? `${few(without)} ${without.length === 1 ? 'has' : 'have'} no column ${name}: blank there`
        : `only ${few(having)} ${having.length === 1 ? 'has' : 'have'} the column ${name}`;
    return [{ severity: 'warning', text, column: name }];
  });
}

function stackedNotices(
  files: readonly Source[],
  results: readonly ReadResult[],
  heights: readonly number[],
): Notice[] {
  const told: Notice[] = [{ severity: 'info', text: `${counted(files.length, 'file')} read` }];
  let before = 0;
  results.forEach(({ notices }, k) => {
    for (const notice of notices) {
      if (notice.severity !== 'warning') continue;
      const rows = notice.rows?.rows.map((row) => row + before);
      told.push({
        ...notice,
        text: `${baseName(files[k]!.name)}: ${notice.text}`,
        rows: rows === undefined ? undefined : { of: 'after', rows },
      });
    }
    before += heights[k]!;
  });
  const widths = results.map(({ table }) => table.fields.length);
  const usual = widths.toSorted((a, b) => a - b)[Math.floor(widths.length / 2)]!;
  const odd = files.filter((_, k) => widths[k] !== usual);
  const byPlace = results.some(({ table }) => table.fields.some((field) => field.nameOrigin === 'position'));
  if (odd.length > 0 && byPlace)
    told.push({
      severity: 'warning',
      text: `${counted(odd.length, 'file')} with another number of columns than the ${usual} that most have: ${few(odd.map((file) => baseName(file.name)))}`,
    });
  return told;
}
