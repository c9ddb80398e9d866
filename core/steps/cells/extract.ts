import { z } from 'zod';
import { compilePattern } from '../../kinds/column-set.ts';
import { namesPhrase } from '../../kinds/headline.ts';
import { columnName } from '../../kinds/param-marks.ts';
import { blank, choiceBlank, columnBlank, type Phrase } from '../../kinds/sentence.ts';
import { needColumn, type StepDescriptor, StepFailure, stepKind } from '../../kinds/step.ts';
import { compileTemplate } from '../../values/template.ts';
import { piecesToColumns } from '../text-pieces.ts';

const Params = z.object({
  column: columnName(),
  by: z.enum(['template', 'pattern', 'position']).default('template'),
  template: z.string().default('{First}-{Rest}').describe("Text with named pieces in braces: 'HU-{Number}/{Part}'"),
  pattern: z
    .string()
    .default('(?<Piece>\\d+)')
    .describe('ECMAScript regular expression; its groups, by name or number, become columns'),
  end: z.enum(['start', 'end']).default('start').describe('From which end positions count'),
  skip: z.number().int().min(0).default(0),
  take: z.number().int().min(1).default(2),
  into: z.string().min(1).default('Piece').describe('New column, for a position'),
});
type Params = z.infer<typeof Params>;

export const extractWords: StepDescriptor<Params> = {
  kind: 'extract',
  rowByRow: true,
  drops: true,
  title: 'Extract pieces',
  summary: 'Takes pieces of text by template, pattern or position from either end into new columns',
  searchTerms: [
    'substring',
    'first characters',
    'last characters',
    'between',
    'regex',
    'parse text',
    'left',
    'right',
    'mid',
  ],
  params: Params,
  headline: ({ column }) => `Extract parts of ${namesPhrase([column])}`,
  sentence: (params) => ['Extract from ', columnBlank('column', params.column, 'Column'), ' ', ...how(params)],
};

export const extract = /* @__PURE__ */ stepKind<Params>(extractWords, {
  start: (table, columns) => Params.parse({ column: columns[0] ?? table.fields[0]?.name ?? '' }),
  run(input, params) {
    const column = needColumn(input, params.column);
    if (params.by === 'position') {
      return piecesToColumns(input, column, [params.into], (text) => [piece([...text], params)], true);
    }
    const { names, pieces } = params.by === 'template' ? template(params.template) : groups(params.pattern);
    const cut = (text: string) => pieces(text)?.map((one) => one?.trim() ?? null);
    return piecesToColumns(input, column, names, cut, true);
  },
});

function how(params: Params): Phrase[] {
  const by = choiceBlank('by', params.by, 'How', [
    ['template', 'by the template'],
    ['pattern', 'by the pattern'],
    ['position', 'by position'],
  ]);
  if (params.by === 'template')
    return [
      by,
      ' ',
      blank('template', params.template, {
        as: 'text',
        label: 'Template',
        hint: 'Named pieces in braces, as in HU-{Number}/{Part}',
      }),
    ];
  if (params.by === 'pattern')
    return [
      by,
      ' ',
      blank('pattern', params.pattern, {
        as: 'text',
        label: 'Pattern',
        hint: 'Each group becomes a column: (?<Number>\\d+)',
      }),
    ];
  return [
    by,
    ', ',
    blank('take', String(params.take), { as: 'count', label: 'How many characters', least: 1, most: 10_000 }),
    ' characters after ',
    blank('skip', String(params.skip), { as: 'count', label: 'Characters passed over', least: 0, most: 10_000 }),
    ' from the ',
    choiceBlank('end', params.end, 'From which end', [
      ['start', 'front'],
      ['end', 'end'],
    ]),
    ', into ',
    blank('into', params.into, { as: 'text', label: 'New column' }),
  ];
}

function piece(characters: readonly string[], params: Params): string {
  const n = characters.length;
  const from = params.end === 'start' ? params.skip : Math.max(0, n - params.skip - params.take);
  const to = params.end === 'start' ? params.skip + params.take : Math.max(0, n - params.skip);
  return characters.slice(from, to).join('');
}

interface Cutter {
  names: string[];
  /** What each piece of a text holds; undefined where the text does not fit. */
  pieces(text: string): readonly (string | undefined)[] | undefined;
}

function template(text: string): Cutter {
  try {
    const { names, exec } = compileTemplate(text);
    if (names.length === 0) throw new Error(`${text} names no piece: put one in braces, as in {Number}`);
    return { names, pieces: (one) => exec(one) ?? undefined };
  } catch (error) {
    throw new StepFailure(`The template cannot be used. ${(error as Error).message}.`);
  }
}

function groups(text: string): Cutter {
  const pattern = compilePattern(text);
  if (pattern.names.length === 0)
    throw new StepFailure(`The pattern ${text} has no group: put what is wanted in round brackets.`);
  return {
    names: pattern.names.map((name, k) => name ?? `Piece ${k + 1}`),
    pieces: (one) => pattern.exec(one)?.groups.slice(1),
  };
}
