import { Seen, type SeenColumn, type Sight, textAt } from '../glance/sight.ts';
import { escapeRegExp } from '../values/text.ts';
import type { Detector, Proposal } from './finding.ts';

/** Texts that are all built alike, as messages of a log: what stands the same in each, and the pieces between. */
export const templates: Detector = {
  name: 'templates',
  find(hand) {
    const { sight } = hand;
    const steps: Proposal[] = [];
    for (const column of sight.columns) {
      if (column.counts[Seen.text]! < Math.max(8, sight.rows * 0.9)) continue;
      const found = templateOf(distinctTexts(sight, column), column.name);
      if (found === undefined) continue;
      steps.push(
        {
          kind: 'extract',
          params: { column: column.name, by: 'pattern', pattern: found.pattern },
          why: `every ${column.name} is built alike: ${found.shown}`,
        },
        {
          kind: 'drop-columns',
          params: { columns: { by: 'names', names: [column.name] } },
          why: 'taken apart into its pieces',
        },
      );
    }
    if (steps.length === 0) return [];
    return [
      { steps, weight: 2, doubt: 'texts that are built alike may belong together', gives: 'texts taken apart' },
      { steps: [], weight: 0, gives: 'texts as they stand' },
    ];
  },
};

const MOST_TEXTS = 600;
const TOKEN = /[\p{L}\p{M}\p{N}_]+(?:[-/.,][\p{L}\p{M}\p{N}_]+)*|[^\s]/gu;

function distinctTexts(sight: Sight, column: SeenColumn): string[] {
  const texts = new Set<string>();
  for (let r = 0; r < sight.rows && texts.size < MOST_TEXTS; r++)
    if (column.kinds[r] === Seen.text) texts.add(textAt(column, r));
  return [...texts];
}

/** Tokens that stand exactly once in each text, in one order, with other things between. */
function templateOf(texts: readonly string[], name: string): { pattern: string; shown: string } | undefined {
  if (texts.length < 8 || texts.some((text) => text.length > 300)) return undefined;
  const tokens = texts.map((text) => text.match(TOKEN) ?? []);
  if (tokens.some((own) => own.length < 4)) return undefined;
  // A token that each text has as often as the first one: quotation marks come in pairs.
  const countIn = (own: readonly string[], token: string) => own.filter((one) => one === token).length;
  const first = tokens[0]!.filter(
    (token) => !/^\d/.test(token) && tokens.every((own) => countIn(own, token) === countIn(tokens[0]!, token)),
  );
  const inOrder = tokens.every((own) => own.filter((one) => first.includes(one)).join(' ') === first.join(' '));
  const anchors = inOrder ? first : [];
  if (
    anchors.length < 2 ||
    !anchors.some((token) => /[^\p{L}\p{M}_-]/u.test(token)) ||
    anchors.every((token) => token === '-' || token === '.')
  )
    return undefined;
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
      const before = anchors[k - 1];
      const wanted =
        before !== undefined && /^\p{L}[\p{L}_]*$/u.test(before) ? before : `${name} ${varied.indexOf(k) + 1}`;
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
