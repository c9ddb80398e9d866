import { Seen, type SeenColumn, type Sight, textAt } from '../glance/sight.ts';
import type { Detector, Finding } from './finding.ts';

/** Two things in one column: a name with its code in brackets, a kind with a figure behind a sign. */
export const twoInOne: Detector = {
  name: 'two-in-one',
  find(hand) {
    const steps = hand.sight.columns.flatMap((column) => {
      if (column.counts[Seen.text]! < Math.max(2, (hand.sight.rows - column.counts[Seen.blank]!) * 0.9)) return [];
      const step = split(hand.sight, column);
      return step === undefined ? [] : [step];
    });
    return steps.length === 0
      ? []
      : ([{ steps, weight: 1, doubt: 'what stands in one column may belong together' }] satisfies Finding[]);
  },
};

function split(sight: Sight, column: SeenColumn) {
  const texts = new Set<string>();
  for (let r = 0; r < sight.rows; r++) {
    const text = textAt(column, r);
    if (text !== '') texts.add(text);
    if (texts.size > 2000) break;
  }
  const all = [...texts];
  if (all.length < 2) return undefined;
  const fits = (pattern: RegExp) => all.filter((text) => pattern.test(text)).length >= all.length * 0.97;
  const other = `${column.name} code`;
  if (fits(/^[^()]+\s\([^()]+\)$/)) {
    const inside = all.map((text) => /\(([^()]+)\)$/.exec(text)?.[1] ?? '');
    if (new Set(inside).size < 2) return undefined;
    return cut(
      column,
      [' (', ')'],
      [column.name, isCode(inside) ? other : `${column.name} in brackets`, ''],
      'every',
      'a name and what stands in brackets behind it',
    );
  }
  if (fits(/^[^[\]]+\s\[[^[\]]+\]$/))
    return cut(column, [' [', ']'], [column.name, other, ''], 'every', 'a name and what stands in brackets behind it');
  for (const sign of [' - ', ' – ', ' — ', ' | ', ': ', ' / ', ' · ', '/', '|', ':', ' ']) {
    const once = all.filter((text) => text.split(sign).length === 2);
    // Some may do without the second thing, as a kind without its length.
    const spare = all.length - all.filter((text) => text.includes(sign)).length;
    if (sign === '/' && once.length >= 3 && once.length >= all.length * 0.6 && once.length + spare === all.length) {
      const pairs = once.map((text) => text.split(sign));
      if (
        isFigures(pairs.map((pair) => pair[1]!)) &&
        !pairs.some((pair) => /\d/.test(pair[0]!)) &&
        new Set(pairs.map((pair) => pair[0])).size >= 2
      )
        return cut(
          column,
          [sign],
          [column.name, `${column.name} figure`],
          'every',
          `a kind and a figure parted by '${sign}': ${once[0]}`,
        );
    }
    const first = sign !== ' ' ? once : all.filter((text) => text.includes(sign));
    if (first.length < all.length * 0.97) continue;
    const pieces = first.map((text) => {
      const at = text.indexOf(sign);
      return [text.slice(0, at).trim(), text.slice(at + sign.length).trim()] as const;
    });
    const [left, right] = [pieces.map(([a]) => a), pieces.map(([, b]) => b)];
    const spaced = sign.trim() !== sign && sign !== ' ';
    if (new Set(left).size < 2 || new Set(right).size < 2) continue;
    const codes = isCode(left) !== isCode(right);
    const figures = isFigures(left) !== isFigures(right) && !isCode(left) && !isCode(right);
    const classes =
      spaced && new Set(left).size * new Set(right).size <= all.length * 2 && new Set(left).size < all.length * 0.5;
    // A blank alone divides only a code in front of a name.
    if (sign === ' ') {
      if (!isCode(left) || isCode(right) || !left.every((text) => /\d/.test(text))) continue;
    } else if (!spaced && !figures && !(codes && sign !== '/' && sign !== ':')) continue;
    else if (spaced && !codes && !figures && !classes) continue;
    const names =
      isCode(left) && !isCode(right)
        ? [other, column.name]
        : isCode(right) && !isCode(left)
          ? [column.name, other]
          : [`${column.name} 1`, `${column.name} 2`];
    return cut(
      column,
      [sign],
      names,
      sign === ' ' ? 'first' : 'every',
      `two things parted by '${sign}': ${left[0]} and ${right[0]}`,
    );
  }
  return undefined;
}

function cut(column: SeenColumn, delimiters: readonly string[], into: readonly string[], which: string, why: string) {
  return {
    kind: 'split-to-columns',
    params: {
      column: column.name,
      cut: { by: 'delimiter', delimiters, which, positions: [], trim: true },
      into,
      keep: false,
    },
    why: `${column.name} holds ${why}`,
  };
}

/** Short, without blanks, with a digit or in capitals throughout. */
function isCode(texts: readonly string[]): boolean {
  return (
    texts.every(
      (text) => text.length <= 12 && !/\s/.test(text) && /^[\p{Lu}\d./_-]+$/u.test(text) && /[\p{Lu}\d]/u.test(text),
    ) && !isFigures(texts.filter((text) => /[.,]/.test(text)).concat('x'))
  );
}

function isFigures(texts: readonly string[]): boolean {
  return texts.every((text) => /^[+-]?\d[\d\s.,]*(?:\s?(?:%|€|\p{L}{1,3}))?$/u.test(text));
}
