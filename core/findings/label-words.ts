import { isYear } from '../glance/table-profile.ts';
import { uniqueName } from '../table/table.ts';
import { textView } from '../values/cell-text.ts';
import type { Detector, Proposal } from './finding.ts';

/** What the columns of labels are called that a draft carries down. */
export const LABEL_NAMES: ReadonlySet<string> = new Set(['Heading', 'Group', 'Section', 'Division']);

/** Signs round a label. */
const FRAME = /^[*=#~<>+|-]+\s*([^\s*=#~<>+|-].*?)\s*[*=#~<>+|-]+$/u;

/** A number in front of a name: '4010 Harbour dues', '2.3 Earthworks'. */
const NUMBERED = /^(\d[\d.-]*)\s+\p{L}/u;

/** Several words in front of a number: 'Calls from 01856 465611'. */
const WORDS_IN_FRONT = /^(?<words>\p{L}+(?: \p{L}+)+) (?=\d)/u;

/** Each label has another number, and they are not years. */
function isNumbering(numbers: readonly (string | undefined)[]): boolean {
  return (
    numbers.every((own) => own !== undefined) &&
    new Set(numbers).size === numbers.length &&
    !numbers.every((own) => isYear(Number(own)))
  );
}

/** Labels of a print-out that say their own name first: PORT HASK, PORT ULLIN. */
export const labelWords: Detector = {
  name: 'label-words',
  draftOnly: true,
  find({ profile }) {
    // Labels stand beside the table: they are no columns of what is seen in it.
    const steps = profile.table.fields.flatMap((field): Proposal[] => {
      if (!LABEL_NAMES.has(field.name.split(' ')[0]!)) return [];
      const { codes, texts: all } = textView(field.column);
      if (codes.includes(-1)) return [];
      const texts = new Set([...new Set(codes)].map((code) => all[code]!));
      const [first = ''] = texts;
      const frame = FRAME.exec(first);
      if (frame !== null && texts.size > 1 && [...texts].every((text) => FRAME.test(text)))
        return [
          {
            kind: 'replace',
            params: {
              columns: { by: 'names', names: [field.name] },
              find: FRAME.source,
              with: '$1',
              how: 'pattern',
              exact: true,
            },
            why: `all ${texts.size} labels are framed by signs, for example ${first}`,
          },
        ];
      const numbers = [...texts].map((text) => NUMBERED.exec(text)?.[1]);
      if (texts.size > 1 && isNumbering(numbers))
        return [
          {
            kind: 'split-to-columns',
            params: {
              column: field.name,
              cut: { by: 'delimiter', delimiters: [' '], which: 'first', positions: [], trim: true },
              into: [
                uniqueName(`${field.name} code`, new Set(profile.table.fields.map(({ name }) => name))),
                field.name,
              ],
              keep: false,
            },
            why: `all ${texts.size} labels begin with different numbers, for example ${first}`,
          },
        ];
      const words = WORDS_IN_FRONT.exec(first)?.groups?.['words'];
      if (
        words !== undefined &&
        texts.size > 1 &&
        [...texts].every((text) => WORDS_IN_FRONT.exec(text)?.groups?.['words'] === words)
      )
        return [
          {
            kind: 'replace',
            params: {
              columns: { by: 'names', names: [field.name] },
              find: `${words} `,
              with: '',
              how: 'part',
              exact: true,
            },
            why: `all ${texts.size} labels begin with '${words}'`,
          },
          {
            kind: 'rename',
            params: {
              names: [
                { from: field.name, to: uniqueName(words, new Set(profile.table.fields.map(({ name }) => name))) },
              ],
            },
            why: 'what the labels begin with',
          },
        ];
      const word = /^\p{Lu}{3,}(?= )/u.exec(first)?.[0];
      // In small letters a first word that they share belongs to the name more often than not.
      if (word === undefined || texts.size < 2) return [];
      if (![...texts].every((text) => text.startsWith(`${word} `) && text === text.toUpperCase())) return [];
      return [
        {
          kind: 'split-to-columns',
          params: {
            column: field.name,
            cut: { by: 'delimiter', delimiters: [' '], which: 'first', positions: [], trim: true },
            into: ['', word],
            keep: false,
          },
          why: `all ${texts.size} labels begin with ${word}, for example ${first}`,
        },
      ];
    });
    // A number and a name may be one name.
    const cut = steps.flatMap(({ kind, params }) =>
      kind === 'split-to-columns' && !(params['into'] as string[]).includes('') ? [String(params['column'])] : [],
    );
    return steps.length === 0
      ? []
      : [{ steps, weight: 0.6, ...(cut.length > 0 ? { doubt: { code: 'two-in-one', columns: cut } } : {}) }];
  },
};
