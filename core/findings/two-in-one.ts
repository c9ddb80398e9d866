import { CellKind, type ColumnProfile, distinctTexts } from '../glance/table-profile.ts';
import type { Detector, Finding } from './finding.ts';

/** Two things in one column: a name with its code in brackets, a kind with a figure behind a sign. */
export const twoInOne: Detector = {
  name: 'two-in-one',
  find(input) {
    const steps = input.profile.columns.flatMap((column) => {
      const isText =
        column.counts[CellKind.text]! >= Math.max(2, (input.profile.rows - column.counts[CellKind.blank]!) * 0.9);
      // Amounts with a currency are seen as numbers.
      const all = isText || column.counts[CellKind.figure]! > 1 ? distinctTexts(column, MAX_TEXTS) : [];
      const step = currencies(column, all) ?? (isText ? split(column, all) : undefined);
      return step === undefined ? [] : [step];
    });
    return steps.length === 0
      ? []
      : ([
          { steps, weight: 1, doubt: { code: 'two-in-one', columns: steps.map(({ params }) => params.column) } },
        ] satisfies Finding[]);
  },
};

/** Different texts of a column that are looked at. */
const MAX_TEXTS = 2001;

function split(column: ColumnProfile, all: readonly string[]) {
  return all.length < 2 ? undefined : (inBrackets(column, all) ?? parted(column, all) ?? figuresInStep(column, all));
}

/** Texts of which each must hold as many figures. */
const MIN_IN_STEP = 5;
const MAX_IN_STEP = 4;

/** '-4.01; 56.47': as many figures in each text, as of points. */
function figuresInStep(column: ColumnProfile, all: readonly string[]) {
  if (all.length < MIN_IN_STEP) return undefined;
  for (const sign of ['; ', ';', ', ', '|']) {
    const items = all.map((text) => text.split(sign));
    const count = items[0]!.length;
    if (count < 2 || count > MAX_IN_STEP || !items.every((own) => own.length === count && own.every(isFigure)))
      continue;
    const into = Array.from({ length: count }, (_, k) => `${column.name} ${k + 1}`);
    return cut(column, [sign.trim()], into, 'every', `${count} figures separated by '${sign.trim()}'`);
  }
  return undefined;
}

const isFigure = (text: string) => /^[-+−]?\d+(?:\.\d+)?$/.test(text.trim());

/** Texts may differ in one of about thirty. */
const NEARLY_ALL = 0.97;
const SIGNS = [' - ', ' – ', ' — ', ' | ', ': ', ' / ', ' · ', '/', '|', ':', ' '];

/** 'Name (CODE)', 'Name [CODE]'. */
function inBrackets(column: ColumnProfile, all: readonly string[]) {
  for (const [open, close, pattern] of [
    [' (', ')', /^[^()]+\s\(([^()]+)\)$/],
    [' [', ']', /^[^[\]]+\s\[([^[\]]+)\]$/],
  ] as const) {
    const inside = all.flatMap((text) => pattern.exec(text)?.[1] ?? []);
    if (inside.length < all.length * NEARLY_ALL || new Set(inside).size < 2) continue;
    const second = isCode(inside) ? `${column.name} code` : `${column.name} in brackets`;
    return cut(column, [open, close], [column.name, second, ''], 'every', 'a name followed by brackets');
  }
  return undefined;
}

/** 'EUR 12.50' beside 'GBP 3.10': amounts in several currencies, each with its code of three letters (ISO 4217). */
function currencies(column: ColumnProfile, all: readonly string[]) {
  const pairs = all.map((text) => text.split(' '));
  const codeAt = pairs[0]?.length === 2 ? pairs[0]!.findIndex((text) => /^[A-Z]{3}$/.test(text)) : -1;
  if (codeAt < 0) return undefined;
  const areAmounts = pairs.every((own) => own.length === 2 && isAmount(own[1 - codeAt]!));
  const codes = new Set(pairs.map((own) => own[codeAt]!));
  if (!areAmounts || codes.size < 2 || ![...codes].every((code) => /^[A-Z]{3}$/.test(code))) return undefined;
  const into = codeAt === 0 ? ['Currency', column.name] : [column.name, 'Currency'];
  return cut(column, [' '], into, 'first', `amounts with their currency: ${[...codes].join(', ')}`);
}

const isAmount = (text: string) => /^[-+−(]?\d[\d.,'\u00a0\u202f]*\)?$/.test(text);

/** Two things with a sign between, in nearly every text or wherever the second is said. */
function parted(column: ColumnProfile, all: readonly string[]) {
  for (const sign of SIGNS) {
    const withSign = all.filter((text) => text.includes(sign));
    const isCutOnce = sign === ' ' || (/\s/.test(sign) && isCodedInFront(withSign, sign));
    const once = isCutOnce ? withSign : withSign.filter((text) => text.split(sign).length === 2);
    const pairs = once.map((text): readonly [string, string] => {
      const at = text.indexOf(sign);
      return [text.slice(0, at).trim(), text.slice(at + sign.length).trim()];
    });
    const [left, right] = [pairs.map(([one]) => one), pairs.map(([, other]) => other)];
    const which = isCutOnce ? 'first' : 'every';
    const why = `two values separated by '${sign}': ${left[0]} and ${right[0]}`;
    if (sign === '/' && isKindAndFigure(pairs, all.length, withSign.length))
      return cut(column, [sign], [column.name, `${column.name} figure`], which, why);
    if (once.length < all.length * NEARLY_ALL || !areTwoThings(sign, left, right, all.length)) continue;
    const other = `${column.name} code`;
    const names = isCode(left)
      ? [other, column.name]
      : isCode(right)
        ? [column.name, other]
        : [`${column.name} 1`, `${column.name} 2`];
    // The same name with other codes each time is no name with its code: '79 Quay St'.
    if (sign === ' ' && new Set(right).size < new Set(left.map((code, k) => `${code} ${right[k]}`)).size * 0.9)
      continue;
    return cut(column, [sign], names, which, why);
  }
  return undefined;
}

/** A code with a digit stands in front of the first sign in each text, which may come again in the name. */
function isCodedInFront(texts: readonly string[], sign: string): boolean {
  const fronts = texts.map((text) => text.slice(0, text.indexOf(sign)).trim());
  return isCode(fronts) && fronts.every((front) => /\d/.test(front));
}

/** 'lorry/4.8' beside kinds without a figure. */
function isKindAndFigure(pairs: readonly (readonly [string, string])[], all: number, withSign: number): boolean {
  return (
    pairs.length >= 3 &&
    pairs.length === withSign &&
    pairs.length >= all * 0.6 &&
    isFigures(pairs.map(([, figure]) => figure)) &&
    !pairs.some(([kind]) => /\d/.test(kind)) &&
    new Set(pairs.map(([kind]) => kind)).size >= 2
  );
}

/** What stands left and right is of two kinds: a code and a name, words and figures, or classes under each other. */
function areTwoThings(sign: string, left: readonly string[], right: readonly string[], all: number): boolean {
  const [lefts, rights] = [new Set(left).size, new Set(right).size];
  if (lefts < 2 || rights < 2) return false;
  // A blank alone divides only a code in front of a name.
  if (sign === ' ') return isCode(left) && !isCode(right) && left.every((text) => /\d/.test(text));
  const codes = isCode(left) !== isCode(right);
  const figures = isFigures(left) !== isFigures(right) && !isCode(left) && !isCode(right);
  if (sign.trim() === sign) return figures || (codes && sign !== '/' && sign !== ':');
  return codes || figures || (lefts * rights <= all * 2 && lefts < all * 0.5);
}

function cut(
  column: ColumnProfile,
  delimiters: readonly string[],
  into: readonly string[],
  which: string,
  why: string,
) {
  return {
    kind: 'split-to-columns',
    params: {
      column: column.name,
      cut: { by: 'delimiter', delimiters, which, positions: [], trim: true },
      into,
      keep: false,
    },
    why: `${column.name} contains ${why}`,
  };
}

/** Short, without blanks, with a digit or in capitals throughout. */
function isCode(texts: readonly string[]): boolean {
  return texts.every((text) => text.length <= 12 && /^[\p{Lu}\d./_-]+$/u.test(text) && /[\p{Lu}\d]/u.test(text));
}

function isFigures(texts: readonly string[]): boolean {
  return texts.every((text) => /^[+-]?\d[\d\s.,]*(?:\s?(?:%|€|\p{L}{1,3}))?$/u.test(text));
}
