import { CellKind, type ColumnProfile, distinctTexts } from '../glance/table-profile.ts';
import { isPositioned } from '../table/table.ts';
import { counted } from '../values/counted.ts';
import { escapeRegExp } from '../values/text.ts';
import type { Doubt } from './doubt.ts';
import type { Detector, Proposal } from './finding.ts';

/** Texts that are built alike, as messages of a log: what stands the same in each, and the pieces between. */
export const templates: Detector = {
  name: 'templates',
  draftOnly: true,
  find(input) {
    const { profile } = input;
    const steps: Proposal[] = [];
    let isWhole = true;
    let unlike = 0;
    for (const column of profile.columns) {
      if (column.counts[CellKind.text]! < Math.max(MIN_TEXTS, profile.rows * 0.9)) continue;
      const texts = distinctTexts(column, MAX_TEXTS, (kind) => kind === CellKind.text);
      const found = commonestTemplate(texts, column.name);
      if (found === undefined) continue;
      // Of several columns one alone may choose the rows, and of records none: they say more than this text.
      if (found.others > 0 && (!isWhole || isPositioned(input.raw))) continue;
      isWhole &&= found.others === 0;
      unlike = Math.max(unlike, found.others / texts.length);
      steps.push(...(found.others > 0 ? [keeping(column, found)] : []), ...takingApart(column, found));
    }
    if (steps.length === 0) return [];
    const doubt: Doubt = { code: isWhole ? 'texts-of-one-form' : 'other-forms' };
    return [
      { steps, weight: isWhole ? 2 : 1.6 - OTHERS * unlike, doubt, gives: 'texts split into parts' },
      { steps: [], weight: 0, gives: 'texts unchanged' },
    ];
  },
};

/** What rows of other forms, which are left out, speak against one form of all. */
const OTHERS = 2;

interface Template {
  pattern: string;
  shown: string;
}

/** A template, and how many different texts it does not fit. */
interface Commonest extends Template {
  others: number;
}

export function keeping(column: ColumnProfile, { pattern, shown, others }: Commonest): Proposal {
  return {
    kind: 'keep-rows',
    params: { rules: [{ test: 'matches', column: column.name, text: pattern }] },
    why: `most texts in ${column.name} have one form: ${shown}; ${counted(others, 'other')} ${others === 1 ? 'is' : 'are'} not`,
  };
}

export function takingApart(column: ColumnProfile, { pattern, shown }: Template): Proposal[] {
  return [
    {
      kind: 'extract',
      params: { column: column.name, by: 'pattern', pattern },
      why: `all texts in ${column.name} have one form: ${shown}`,
    },
    {
      kind: 'drop-columns',
      params: { columns: { by: 'names', names: [column.name] } },
      why: 'split into its parts',
    },
  ];
}

/** Share of the texts that one template must fit. */
const COMMON = 0.5;
/** Words by which texts are distinguished from others, the commonest first. */
const MAX_WORDS = 12;

/** The template of all texts, or of the most that share a word. */
function commonestTemplate(texts: readonly string[], name: string): Commonest | undefined {
  const all = templateOf(texts, name);
  if (all !== undefined) return { ...all, others: 0 };
  const byWord = new Map<string, string[]>();
  for (const text of texts) {
    for (const word of new Set(text.match(TOKEN))) {
      if (/^\p{L}[\p{L}-]+$/u.test(word)) byWord.set(word, [...(byWord.get(word) ?? []), text]);
    }
  }
  const families = [...byWord.values()]
    .filter((family) => family.length >= texts.length * COMMON && family.length < texts.length)
    .sort((a, b) => b.length - a.length)
    .slice(0, MAX_WORDS);
  for (const family of families) {
    const found = templateOf(family, name);
    if (found !== undefined) return { ...found, others: texts.length - family.length };
  }
  return undefined;
}

const MAX_TEXTS = 600;
/** Texts that show a form. */
const MIN_TEXTS = 8;
/** Words and signs one by one; the sign of a figure is part of it, and a time is one word. */
const TOKEN =
  /\d{1,2}:\d{2}(?::\d{2})?(?!\d)|(?:(?<![\p{L}\p{M}\p{N}_)])[-+−](?=\p{N}))?[\p{L}\p{M}\p{N}_]+(?:[-/.,][\p{L}\p{M}\p{N}_]+)*|[^\s]/gu;

/** Tokens that stand exactly once in each text, in one order, with other things between. */
export function templateOf(texts: readonly string[], name: string, least = MIN_TEXTS): Template | undefined {
  if (texts.length < least || texts.some((text) => text.length > 300)) return undefined;
  const tokens = texts.map((text) => text.match(TOKEN) ?? []);
  if (tokens.some((own) => own.length < 4)) return undefined;
  // A token that each text has as often as the first one: quotation marks come in pairs.
  const countIn = (own: readonly string[], token: string) => own.filter((one) => one === token).length;
  const first = tokens[0]!.filter(
    (token) => !/^[-+−]?\d/.test(token) && tokens.every((own) => countIn(own, token) === countIn(tokens[0]!, token)),
  );
  const inOrder = tokens.every((own) => own.filter((one) => first.includes(one)).join(' ') === first.join(' '));
  const anchors = inOrder ? first : [];
  const isSentence = anchors.filter((token) => /^\p{L}{2,}$/u.test(token)).length >= 3;
  if (
    anchors.length < 2 ||
    !(isSentence || anchors.some((token) => /[^\p{L}\p{M}_-]/u.test(token))) ||
    anchors.every((token) => token === '-' || token === '.')
  )
    return undefined;
  // A word with a capital right beside words with capitals that vary is a part of their name.
  for (let k = anchors.length - 1; k >= 0; k--) {
    const word = escapeRegExp(anchors[k]!);
    const beside = [new RegExp(`${word}\\s+\\p{Lu}`, 'u'), new RegExp(`\\p{Lu}[\\p{L}-]*\\s+${word}(?!\\p{L})`, 'u')];
    if (/^\p{Lu}\p{Ll}+$/u.test(anchors[k]!) && beside.some((form) => texts.every((text) => form.test(text))))
      anchors.splice(k, 1);
  }
  // What stands between the anchors, text by text.
  const gaps = texts.map((text) => {
    const found: string[] = [];
    let at = 0;
    for (const anchor of anchors) {
      const next = text.indexOf(anchor, at);
      found.push(text.slice(at, next).trim());
      at = next + anchor.length;
    }
    return [...found, text.slice(at).trim()];
  });
  const used = Array.from({ length: anchors.length + 1 }, (_, k) => gaps.filter((own) => own[k] !== '').length);
  if (used.some((count) => count > 0 && count < texts.length * 0.95)) return undefined;
  const varied = used.flatMap((count, k) => (count > 0 && new Set(gaps.map((own) => own[k])).size > 1 ? [k] : []));
  if (varied.length < 2 || gaps.some((own) => own.some((piece) => piece.length > 60))) return undefined;
  const taken = new Set<string>();
  let pattern = '^\\s*';
  let shown = '';
  for (let k = 0; k <= anchors.length; k++) {
    if (used[k]! > 0) {
      const [before, after] = [anchors[k - 1], anchors[k]];
      const isCount = gaps.every((own) => /^\d+$/.test(own[k]!)) && after !== undefined && /^\p{Ll}{3,}$/u.test(after);
      const isWord = isCount && !(before !== undefined && /^\p{L}{5,}$/u.test(before));
      const wanted = isWord
        ? after!
        : before !== undefined && /^\p{L}[\p{L}_]*$/u.test(before)
          ? before
          : `${name} ${varied.indexOf(k) + 1}`;
      let own = wanted
        .normalize('NFD')
        .replace(/[^\w]+/g, '_')
        .replace(/^(?=\d)/, '_');
      while (taken.has(own)) own = `${own}_${taken.size}`;
      taken.add(own);
      pattern += varied.includes(k) ? `(?<${own}>.+?)\\s*` : `${escapeRegExp(gaps[0]![k]!)}\\s*`;
      shown += varied.includes(k) ? `{${own}}` : gaps[0]![k]!;
    }
    if (k < anchors.length) {
      pattern += `${escapeRegExp(anchors[k]!)}\\s*`;
      shown += ` ${anchors[k]} `;
    }
  }
  return { pattern: `${pattern}$`, shown: shown.replace(/\s+/g, ' ').trim() };
}
