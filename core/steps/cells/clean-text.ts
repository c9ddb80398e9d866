import { z } from 'zod';
import { ColumnSet, chosenColumns, columnSetText } from '../../kinds/column-set.ts';
import { columnsPhrase } from '../../kinds/headline.ts';
import { blank, choiceBlank, option, type Phrase } from '../../kinds/sentence.ts';
import { type StepDescriptor, stepKind } from '../../kinds/step.ts';
import { mapColumns } from './map-columns.ts';

const Params = z.object({
  columns: ColumnSet.default({ by: 'all' }),
  outer: z.boolean().default(true).describe('Outer spaces go'),
  inner: z.boolean().default(true).describe('Runs of spaces inside become one'),
  control: z.boolean().default(true).describe('Control and zero-width characters go, no-break spaces become spaces'),
  letters: z.enum(['keep', 'lower', 'upper', 'title', 'sentence']).default('keep'),
  normal: z.enum(['keep', 'NFC', 'NFKC']).default('keep').describe('Unicode normal form'),
  leaveOut: z.array(z.enum(['letters', 'digits', 'punctuation', 'blanks'])).default([]),
});
type Params = z.infer<typeof Params>;

const CLASSES: Record<Params['leaveOut'][number], RegExp> = {
  letters: /\p{L}/gu,
  digits: /\p{Nd}/gu,
  punctuation: /[\p{P}\p{S}]/gu,
  blanks: /\s/gu,
};

/** What the step makes of one text. */
export function cleaned(text: string, params: Params): string | null {
  let out = text;
  if (params.control) {
    // Format characters are invisible and come along when text is copied from pages; tabs and line ends are spaces.
    out = out.replace(/[\u00a0\u2007\u202f\t\n\r\v\f]/g, ' ').replace(/[\p{Cc}\u00ad\u200b-\u200d\u2060\ufeff]/gu, '');
  }
  if (params.normal !== 'keep') out = out.normalize(params.normal);
  for (const one of params.leaveOut) out = out.replace(CLASSES[one], '');
  if (params.inner) out = out.replace(/(?<=\S)\s+(?=\S)/gu, ' ');
  if (params.outer) out = out.trim();
  switch (params.letters) {
    case 'lower':
      out = out.toLowerCase();
      break;
    case 'upper':
      out = out.toUpperCase();
      break;
    case 'title':
      out = out.toLowerCase().replace(/(?<![\p{L}\p{M}'’])\p{L}/gu, (letter) => letter.toUpperCase());
      break;
    case 'sentence':
      out = out.toLowerCase().replace(/\p{L}/u, (letter) => letter.toUpperCase());
      break;
    default:
  }
  return out === '' ? null : out;
}

export const cleanTextWords: StepDescriptor<Params> = {
  kind: 'clean-text',
  rowByRow: true,
  title: 'Clean text',
  summary:
    'Trims, makes all spaces plain ones, takes out invisible characters, sets capitals; blank where nothing is left',
  searchTerms: [
    'trim',
    'whitespace',
    'upper case',
    'lower case',
    'title case',
    'capitals',
    'non-breaking',
    'remove letters',
    'remove digits',
    'remove punctuation',
    'normalise',
  ],
  params: Params,
  headline: ({ columns }) => `Trim text in ${columnsPhrase(columns)}`,
  sentence: (params): Phrase[] => [
    'Clean ',
    blank('columns', columnSetText(params.columns), { as: 'columns', label: 'Columns to clean' }),
    ': ',
    choiceBlank('outer', params.outer, 'Outer spaces', [
      [true, 'trim spaces'],
      [false, 'keep outer spaces'],
    ]),
    ', ',
    choiceBlank('inner', params.inner, 'Repeated spaces inside', [
      [true, 'collapse repeated spaces'],
      [false, 'keep repeated spaces'],
    ]),
    ', ',
    choiceBlank('control', params.control, 'Control and no-break characters', [
      [true, 'remove invisible characters'],
      [false, 'keep invisible characters'],
    ]),
    option(
      params.letters === 'keep',
      ', letters ',
      choiceBlank('letters', params.letters, 'Letters', [
        ['keep', 'as they are'],
        ['lower', 'small'],
        ['upper', 'capital'],
        ['title', 'capital at each word'],
        ['sentence', 'capital at the start'],
      ]),
    ),
    option(
      params.leaveOut.length === 0,
      ', without ',
      blank('leaveOut', params.leaveOut.join(', ') || 'nothing', {
        as: 'several',
        label: 'Left out',
        choices: Object.keys(CLASSES),
      }),
    ),
    option(
      params.normal === 'keep',
      ', Unicode form ',
      choiceBlank('normal', params.normal, 'Unicode normal form', [
        ['keep', 'as it is'],
        ['NFC', 'NFC'],
        ['NFKC', 'NFKC'],
      ]),
    ),
  ],
};

export const cleanText = /* @__PURE__ */ stepKind<Params>(cleanTextWords, {
  start: (_, columns) => Params.parse(columns.length === 0 ? {} : { columns: { by: 'names', names: [...columns] } }),
  run: (input, params) => mapColumns(input, chosenColumns(params.columns, input), (text) => cleaned(text, params)),
});
