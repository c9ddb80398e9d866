import { z } from 'zod';
import { blank, choiceBlank, option, shown } from '../kinds/sentence.ts';
import { type Notice, StepFailure } from '../kinds/step.ts';
import { type Field, uniqueName } from '../table/table.ts';
import { counted, few } from '../values/counted.ts';
import type { Json } from '../values/json.ts';
import { mostAlike } from '../values/likeness.ts';
import { EXPECTS, expectsPhrase } from './expected-columns.ts';
import { gridResult } from './grid-result.ts';
import { firstLines, rowsOfLines } from './json-lines/rows-of-lines.ts';
import { readJson } from './json-source.ts';
import { listPaths, type NestedRows, nestedRows, pathNames } from './nested-rows.ts';
import { type OutlineNode, outlineOf } from './outline.ts';
import { type ReadWords, readKind, type Source } from './read-kind.ts';

const Params = z.object({
  source: z.string(),
  rows: z
    .string()
    .default('$[*]')
    .describe(
      'JSONPath of names, * and [*] (RFC 9535): each item of the last list becomes a row, or each place of lists of one length that an object holds as columns; * takes every member of an object, with its name as a field',
    ),
  join: z.string().default('; ').describe('Stands between the items of lists of plain values'),
  expects: EXPECTS,
  badLines: z.enum(['stop', 'skip']).default('stop').describe('Lines of newline-delimited JSON that cannot be read'),
});
type Params = z.infer<typeof Params>;

export const readNestedWords: ReadWords<Params> = {
  kind: 'read-nested',
  title: 'Read nested text',
  tab: 'nested',
  page: 'outline',
  params: Params,
  headline: ({ rows }) => `Read the items of ${rows.replaceAll('[*]', '').replace(/^\$?\.?/, '') || 'the file'}`,
  sentence: (params, sourceName) => [
    `Read ${sourceName} as nested text, a row for each item of `,
    blank('rows', params.rows, {
      as: 'text',
      label: 'List whose items become rows',
      hint: 'A path such as $.sailings[*].bookings[*]; fields of the levels around come along',
    }),
    option(
      params.join === '; ',
      ', plain lists joined with ',
      blank('join', shown(params.join), {
        as: 'text',
        label: 'Between the items of plain lists',
        optional: true,
        blank: '',
      }),
    ),
    option(
      params.badLines === 'stop',
      ', lines that are no JSON ',
      choiceBlank('badLines', params.badLines, 'Lines that are no JSON', [
        ['stop', 'stop the reading'],
        ['skip', 'left out'],
      ]),
    ),
    expectsPhrase(params.expects),
  ],
};

export const readNested = /* @__PURE__ */ readKind<Params>(readNestedWords, {
  start: (id, source) => {
    const paths = listPaths(readJson(firstLines(source), 'skip').root);
    return Params.parse({
      source: id,
      rows: paths.find((one) => one.objects || one.rows)?.path ?? paths[0]?.path ?? '$',
    });
  },
  read(source, params, context) {
    const names = pathNames(params.rows);
    if (names === undefined)
      throw new StepFailure(
        `The path ${params.rows} cannot be used: it is made of names, * and [*], as in $.sailings[*].bookings[*].`,
      );
    const { found, notices, root } = rowsOf(source, params, names, context.progress);
    if (found.met < names.length) {
      const known = listPaths(root()).map((one) => one.path);
      if (!known.includes(params.rows)) {
        const alike = mostAlike(params.rows, known);
        throw new StepFailure(
          `${source.name} has no list at ${params.rows}. Its lists are ${few(known, 8) || 'none'}.${alike === undefined ? '' : ` Did you mean ${alike}?`}`,
        );
      }
    }
    context.progress(0.8);
    const fields = fieldsOf(found, names);
    const { rows } = found;
    const told: Notice[] = [...notices];
    if (found.childless.length > 0)
      told.push({
        severity: 'warning',
        about: 'childless',
        text: `${counted(found.childless.length, 'item')} whose list is empty, kept as ${found.childless.length === 1 ? 'a separate row' : 'separate rows'}`,
        rows: { of: 'after', rows: Int32Array.from(found.childless) },
      });
    if (found.besides.size > 0)
      told.push({
        severity: 'warning',
        text: `${counted(found.besides.size, 'other list')} kept as JSON: ${few([...found.besides])}; use Unnest to expand them in a separate table`,
      });
    return gridResult(source, fields, rows, told);
  },
});

function rowsOf(
  source: Source,
  params: Params,
  names: readonly string[],
  progress: (done: number) => void,
): { found: NestedRows; notices: readonly Notice[]; root: () => Json } {
  const lines = rowsOfLines(source, names, params.join, params.badLines, progress);
  if (lines !== undefined) return { ...lines, root: () => readJson(source, params.badLines).root };
  const { root, notices } = readJson(source, params.badLines);
  return { found: nestedRows(source, root, names, params.join), notices, root: () => root };
}

/** The outline of a source, of a large one of lines that of its first lines. @throws ReadFailure */
export function nestedOutline(source: Source): OutlineNode[] {
  return outlineOf(readJson(firstLines(source), 'skip').root);
}

/** One column for each field of each level, the outer levels first, in order of appearance. */
function fieldsOf(found: NestedRows, lists: readonly string[]): Field[] {
  const taken = new Set<string>();
  const ordered = found.columns.toSorted((a, b) => a.level - b.level);
  return ordered.map(({ level, name, builder }) => {
    // A name that an outer level has already is distinguished by the list that it stands in.
    const list = lists[level - 1] ?? '';
    const full = taken.has(name) && list !== '' ? `${list}.${name}` : name;
    return {
      name: uniqueName(full, taken),
      nameOrigin: found.positioned ? 'position' : 'named',
      column: builder.finish(found.rows),
    };
  });
}
