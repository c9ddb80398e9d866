import anyAscii from 'any-ascii';
import { z } from 'zod';
import { choiceBlank } from '../../kinds/sentence.ts';
import { type StepDescriptor, stepKind } from '../../kinds/step.ts';
import { counted } from '../../values/counted.ts';
import { renameColumns } from './renaming.ts';

const Params = z.object({
  style: z.enum(['snake', 'kebab', 'camel', 'title', 'sentence']).default('snake'),
});
type Params = z.infer<typeof Params>;

/** Plain ASCII words of a name: every script spelled out in Latin letters, % and # put into words. */
export function plainWords(name: string): string[] {
  const spelled = anyAscii(name.replaceAll('%', ' percent ').replaceAll('#', ' number ').normalize('NFC'));
  return spelled
    .replace(/([a-z\d])([A-Z])/g, '$1 $2')
    .split(/[^A-Za-z\d]+/)
    .filter((word) => word !== '')
    .map((word) => word.toLowerCase());
}

const capital = (word: string) => word.charAt(0).toUpperCase() + word.slice(1);

const STYLES: Record<Params['style'], (words: readonly string[]) => string> = {
  snake: (words) => words.join('_'),
  kebab: (words) => words.join('-'),
  camel: (words) => words.map((word, k) => (k === 0 ? word : capital(word))).join(''),
  title: (words) => words.map(capital).join(' '),
  sentence: (words) => capital(words.join(' ')),
};

export const tidyNamesWords: StepDescriptor<Params> = {
  kind: 'tidy-names',
  presentation: true,
  drops: true,
  title: 'Tidy names',
  summary: 'Makes all column names plain, unique and of one style',
  searchTerms: ['clean names', 'snake case', 'camel case', 'lower case names', 'ascii names', 'unique names'],
  params: Params,
  headline: ({ style }) => `Tidy column names: ${style}`,
  sentence: (params) => [
    'Tidy the names as ',
    choiceBlank('style', params.style, 'Style of names', [
      ['snake', 'snake_case'],
      ['kebab', 'kebab-case'],
      ['camel', 'camelCase'],
      ['title', 'Title Case'],
      ['sentence', 'Sentence case'],
    ]),
  ],
};

export const tidyNames = /* @__PURE__ */ stepKind<Params>(tidyNamesWords, {
  start: () => ({ style: 'snake' }),
  run(input, params) {
    const style = STYLES[params.style];
    const names = input.fields.map(({ name }, k) => {
      const words = plainWords(name);
      return words.length === 0 ? style(['column', String(k + 1)]) : style(words);
    });
    const renamed = new Map(names.flatMap((name, k) => (name === input.fields[k]!.name ? [] : [[k, name] as const])));
    const result = renameColumns(input, renamed);
    return {
      ...result,
      notices: [{ severity: 'info', text: `${counted(renamed.size, 'name')} changed` }, ...result.notices],
    };
  },
});
