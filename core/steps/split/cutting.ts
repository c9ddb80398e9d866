import { z } from 'zod';
import { blank, choiceBlank, type Phrase, shown } from '../../kinds/sentence.ts';

/** How a text is cut into pieces. */
export const Cutting = z.object({
  by: z.enum(['delimiter', 'positions', 'class']).default('delimiter'),
  delimiters: z.array(z.string()).default([',']).describe('Any of these divides'),
  which: z.enum(['every', 'first', 'last']).default('every'),
  positions: z.array(z.number().int().min(1)).default([]).describe('Characters after which the text is cut'),
  trim: z.boolean().default(true).describe('Outer spaces of pieces go'),
});
export type Cutting = z.infer<typeof Cutting>;

/** Cuts where one kind of character ends and another begins. */
const CHANGE_OF_CLASS =
  /(?<=\p{L})(?=\p{Nd})|(?<=\p{Nd})(?=\p{L})|(?<=[\p{L}\p{Nd}])(?=[^\p{L}\p{Nd}])|(?<=[^\p{L}\p{Nd}])(?=[\p{L}\p{Nd}])/u;

/** The pieces of a text; an empty piece is null. */
export function cutText(text: string, cutting: Cutting): (string | null)[] {
  return pieces(text, cutting).map((piece) => {
    const own = cutting.trim ? piece.trim() : piece;
    return own === '' ? null : own;
  });
}

function pieces(text: string, cutting: Cutting): string[] {
  if (cutting.by === 'class') return text.split(CHANGE_OF_CLASS);
  if (cutting.by === 'positions') {
    const characters = [...text];
    const cuts = [0, ...cutting.positions.toSorted((a, b) => a - b), characters.length];
    return cuts.slice(1).map((to, k) => characters.slice(cuts[k], to).join(''));
  }
  // A longer delimiter wins over one that begins it.
  const delimiters = cutting.delimiters.filter((one) => one !== '').toSorted((a, b) => b.length - a.length);
  if (delimiters.length === 0) return [text];
  if (delimiters.length === 1 && cutting.which === 'every') return text.split(delimiters[0]!);
  const found: string[] = [];
  let from = 0;
  const cuts: [number, number][] = [];
  for (let at = 0; at < text.length; ) {
    const delimiter = delimiters.find((one) => text.startsWith(one, at));
    if (delimiter === undefined) {
      at++;
      continue;
    }
    cuts.push([at, at + delimiter.length]);
    at += delimiter.length;
  }
  const used = cutting.which === 'every' ? cuts : cutting.which === 'first' ? cuts.slice(0, 1) : cuts.slice(-1);
  for (const [end, next] of used) {
    found.push(text.slice(from, end));
    from = next;
  }
  return [...found, text.slice(from)];
}

export function cuttingPhrases(cutting: Cutting, path: string): Phrase[] {
  const by = choiceBlank(`${path}.by`, cutting.by, 'How', [
    ['delimiter', 'at'],
    ['positions', 'after characters'],
    ['class', 'where letters, digits and marks meet'],
  ]);
  if (cutting.by === 'class') return [by];
  if (cutting.by === 'positions')
    return [
      by,
      ' ',
      blank(`${path}.positions`, cutting.positions.join(', ') || '…', {
        as: 'numbers',
        label: 'Cut after these characters',
      }),
    ];
  return [
    by,
    ' ',
    choiceBlank(`${path}.which`, cutting.which, 'Which ones', [
      ['every', 'every'],
      ['first', 'the first'],
      ['last', 'the last'],
    ]),
    ' ',
    blank(`${path}.delimiters`, cutting.delimiters.map((one) => `'${shown(one).replaceAll("'", '')}'`).join(' or '), {
      as: 'lines',
      label: 'Delimiters',
      hint: 'One a line; spaces count',
    }),
  ];
}

const USUAL = [' | ', '|', ';', ', ', ',', ' / ', '/', '\t', ' - ', '-', ':', ' '];

/** The delimiter that stands in most of the texts, the rarer kinds of mark before the common ones. */
export function guessDelimiterIn(texts: readonly string[]): string {
  let best = ',';
  let most = 0;
  for (const delimiter of USUAL) {
    const count = texts.filter((text) => text.includes(delimiter)).length;
    if (count > most) [best, most] = [delimiter, count];
  }
  return best;
}
