import { escapeRegExp } from '../values/text.ts';
import { totalWordIn } from './hint-words.ts';

/**
 * What is left of the texts of totals without the word that says so: 'North' of 'Total North'.
 *
 * @returns undefined where a text names nothing, or two the same
 */
export function groupNames(texts: readonly string[]): string[] | undefined {
  const names = texts.map((text) => nameIn(text));
  return names.every((name) => name !== '') && new Set(names).size === names.length ? names : undefined;
}

/** The name of a group in the text of its total; '' where there is none. */
export function nameIn(text: string): string {
  const word = totalWordIn(text);
  if (word === undefined) return '';
  const [own, low] = [text.trim(), word.toLowerCase()];
  const rest = own.toLowerCase().startsWith(low)
    ? own.slice(word.length)
    : own.slice(0, own.toLowerCase().lastIndexOf(low));
  const name = rest.replace(/^[\s:.,–-]+|[\s:.,–-]+$/gu, '');
  return /\p{L}/u.test(name) ? name : '';
}

/** A pattern of what stands beside the name in the text of a total. */
export function wordsOf(text: string, name: string): string {
  const at = text.indexOf(name);
  const [front, behind] = [text.slice(0, at), text.slice(at + name.length)];
  return [front === '' ? '' : `^${escapeRegExp(front)}`, behind === '' ? '' : `${escapeRegExp(behind)}$`]
    .filter((one) => one !== '')
    .join('|');
}
