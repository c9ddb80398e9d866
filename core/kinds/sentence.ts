/** A sentence is words, and blanks that name the param they edit and the editor that suits it. */
export type Phrase = string | Blank;

export interface Blank {
  /** Dotted path into the params. */
  param: string;
  text: string;
  edit: Editor;
  /** Stands in front of it in the sentence; told apart where the phrase may be left out. */
  lead?: string;
  /** It says what is usual, so the sentence goes without it until someone asks for more. */
  usual?: boolean;
}

export interface Choice {
  value: string | number | boolean | null;
  label: string;
}

export type Editor =
  | { as: 'text'; label: string; optional?: boolean; hint?: string; blank?: string }
  | { as: 'count'; label: string; least: number; most: number }
  /** A number; null where it may be left open. */
  | { as: 'figure'; label: string; optional?: boolean }
  | { as: 'choice'; label: string; choices: readonly Choice[] }
  /** Any number of a few words. */
  | { as: 'several'; label: string; choices: readonly string[] }
  /** One column of the input. */
  | { as: 'column'; label: string; optional?: boolean }
  /** A list of column names, in order. */
  | { as: 'names'; label: string; optional?: boolean }
  /** A ColumnSet. */
  | { as: 'columns'; label: string; optional?: boolean }
  /** A Rule, or a list of Rules of which any may hold. */
  | { as: 'rule'; label: string; optional?: boolean }
  | { as: 'rules'; label: string }
  /** A list of objects, each edited by the same few fields; fresh is a new one. */
  | { as: 'items'; label: string; fields: readonly ItemField[]; fresh: Readonly<Record<string, unknown>> }
  /** A text or nothing for each of some columns. */
  | { as: 'cells'; label: string }
  /** Texts, one a line. */
  | { as: 'lines'; label: string; hint?: string }
  /** Characters at which columns begin, shown from 1 and kept from 0. */
  | { as: 'cuts'; label: string }
  /** Kinds of record by the text at a position, each with its own cuts. */
  | { as: 'records'; label: string }
  /** Whole numbers with commas between. */
  | { as: 'numbers'; label: string }
  | { as: 'expression'; label: string }
  /** Other tables of the job. */
  | { as: 'tables'; label: string }
  /** Another table of the job. */
  | { as: 'table'; label: string }
  /** A set of steps of the job. */
  | { as: 'set'; label: string }
  /** Which sheets of the source. */
  | { as: 'sheets'; label: string }
  /** A list of from and to. */
  | { as: 'renames'; label: string }
  /** The type list of set-types. */
  | { as: 'types'; label: string }
  /** The name parts of unpivot. */
  | { as: 'parts'; label: string };

/** One field of an item, and when it applies: only where another field has one of these values. */
export interface ItemField {
  key: string;
  edit: Editor;
  only?: { key: string; is: readonly unknown[] };
}

/** The sentence as plain text. */
export function sentenceText(phrases: readonly Phrase[]): string {
  return phrases
    .map((phrase) => (typeof phrase === 'string' ? phrase : phrase.usual ? '' : (phrase.lead ?? '') + phrase.text))
    .join('')
    .replace(/\s+/g, ' ')
    .trim();
}

/** The phrases as they stand, with nothing left out. */
export function phrasesText(phrases: readonly Phrase[]): string {
  return phrases.map((phrase) => (typeof phrase === 'string' ? phrase : phrase.text)).join('');
}

export function blank(param: string, text: string, edit: Editor): Blank {
  return { param, text, edit };
}

/** A phrase that is left out of the sentence while it says what is usual. */
export function option(usual: boolean, lead: string, of: Blank): Blank {
  return { ...of, lead, usual };
}

/** A blank for one of a few values, each with the words that stand for it in the sentence. */
export function choiceBlank<V extends Choice['value']>(
  param: string,
  value: V,
  label: string,
  words: readonly (readonly [V, string])[],
): Blank {
  const text = words.find(([one]) => one === value)?.[1] ?? String(value);
  return blank(param, text, { as: 'choice', label, choices: words.map(([one, of]) => ({ value: one, label: of })) });
}

/** A blank for one column, with its name as text. */
export function columnBlank(param: string, name: string, label: string): Blank {
  return blank(param, name === '' ? 'choose a column' : name, { as: 'column', label });
}

/** Text with its outer blanks made visible. */
export function shown(text: string): string {
  if (text === '') return 'nothing';
  if (text === '\t') return 'tab';
  if (text === '\n') return 'line end';
  return /^\s|\s$/.test(text) ? `'${text}'` : text;
}
