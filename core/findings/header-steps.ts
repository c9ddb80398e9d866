/** How a header in some row becomes steps, and what is asked of its rows. */
import { CellKind, filledUpTo, isYear, type TableProfile, textAt } from '../glance/table-profile.ts';
import { runStarts } from '../rules/placed.ts';
import type { PlainRule } from '../rules/rules.ts';
import { counted } from '../values/counted.ts';
import { countsUp, PAGE, rowPattern } from './body.ts';
import type { DetectorInput, Proposal } from './finding.ts';

const FRAMED_NUMBER = /^[^\p{L}\d\s]+\s*\d+\s*[^\p{L}\d\s]+$/u;

/** What is between the tiers of a name. */
export const TIER_JOIN = ' / ';

export interface Place {
  row: number;
  tiers: number;
  weight: number;
}

/** Share of the columns with figures below that no tier of the header names. */
export function unnamedShare(profile: TableProfile, row: number, tiers: number): number {
  let [unnamed, all] = [0, 0];
  profile.columns.forEach((column) => {
    if (column.counts[CellKind.figure]! === 0) return;
    all++;
    for (let k = 0; k < tiers; k++) if (column.kinds[row + k] !== CellKind.blank) return;
    unnamed++;
  });
  return all === 0 ? 0 : unnamed / all;
}

export function isPlainFigure(profile: TableProfile, k: number, row: number): boolean {
  const column = profile.columns[k]!;
  return column.kinds[row] === CellKind.figure && !isYear(column.values[row]!);
}

export function filledIn(profile: TableProfile, row: number): number[] {
  return profile.columns.flatMap((column, k) =>
    row < profile.rows && column.kinds[row] !== CellKind.blank && column.kinds[row] !== CellKind.rule ? [k] : [],
  );
}

/** What a header gives, beside other choices. */
export const headerGives = (row: number, tiers: number): string =>
  `header in ${counted(tiers, 'row')} from row ${row + 1}`;

/** A carried heading, where there is one, and the header itself, for tiers from a row on. */
export function headerSteps(input: DetectorInput, row: number, tiers: number): Proposal[] {
  const { profile } = input;
  const at = headerRule(profile, row, input.within !== undefined);
  const steps: Proposal[] = [];
  const { exact: repeats, like } = repeatsOf(profile, row, tiers);
  let { within } = input;
  // One header in each sheet is no table under another.
  const stacked = within === undefined ? like : repeatsWithin(runStarts(profile.table, within), row, like);
  const heading = headingsOf(profile, row, stacked);
  if (heading !== undefined && at !== undefined) {
    steps.push({
      kind: 'carry',
      params: {
        from: profile.columns[heading.column]!.name,
        rule: { test: 'right-above', row: at },
        into: 'Heading',
        ...(heading.also.length === 0
          ? {}
          : {
              also: heading.also.map((k) => ({
                from: profile.columns[k]!.name,
                into: `Heading ${profile.columns[k]!.name}`,
              })),
            }),
        ...(within === undefined ? {} : { within }),
      },
      why: `${heading.count} tables below each other, each with a heading directly above its header`,
    });
    if (like.length > repeats.length && within === undefined) {
      // Tables with other columns: each has its header looked for on its own, and columns meet by name.
      steps.push({
        kind: 'set-aside',
        params: { pile: 'titles', rules: [{ test: 'above-first', row: at }] },
        why: 'lines above the first table',
      });
      within = 'Heading';
    }
  }
  const names = filledIn(profile, row + tiers - 1).length;
  steps.push({
    kind: 'header-from-rows',
    params: {
      rows: tiers,
      at: row === 0 && repeats.length === 0 ? null : (at ?? null),
      join: TIER_JOIN,
      fillAcross: true,
      above: true,
      ...(within === undefined ? {} : { within }),
      repeats: true,
    },
    why: `${names} names above columns of figures and words${tiers > 1 ? `, in ${tiers} tiers` : ''}${repeats.length > 0 ? `, repeated ${repeats.length} times below` : ''}`,
  });
  return steps;
}

/** The first text of the row finds it again. One that says what it is over is better than a number. */
export function headerRule(profile: TableProfile, row: number, sheets: boolean): PlainRule | undefined {
  const filled = filledIn(profile, row);
  const k = filled.find((one) => profile.columns[one]!.kinds[row] === CellKind.text) ?? filled[0];
  if (k === undefined) return undefined;
  const column = profile.columns[k]!;
  const code = column.codes[row]!;
  // Rows above must not say the same, or the header would be searched for there.
  const first = column.codes.indexOf(code);
  if (first < row && !sheets) {
    const other = filled.find((one) => profile.columns[one]!.codes.indexOf(profile.columns[one]!.codes[row]!) === row);
    if (other !== undefined)
      return {
        test: 'equals',
        column: profile.columns[other]!.name,
        text: profile.columns[other]!.texts[profile.columns[other]!.codes[row]!]!,
        exact: true,
      };
  }
  return { test: 'equals', column: column.name, text: column.texts[code]!, exact: true };
}

/** Rows further down that read like the header: word for word, or with most of its names. */
export function repeatsOf(profile: TableProfile, row: number, tiers: number): { exact: number[]; like: number[] } {
  const exact: number[] = [];
  const like: number[] = [];
  const same = (r: number) =>
    profile.columns.every((column) => {
      for (let k = 0; k < tiers; k++) {
        const [a, b] = [column.codes[row + k]!, column.codes[r + k]!];
        if (a !== b && (a < 0 || b < 0 || column.texts[a] !== column.texts[b])) return false;
      }
      return true;
    });
  const lowest = row + tiers - 1;
  const names = new Set(profile.columns.map((column) => textAt(column, lowest)).filter((text) => text !== ''));
  const first = profile.columns.find((column) => column.kinds[row] === CellKind.text);
  for (let r = row + tiers; r + tiers <= profile.rows; r++) {
    if (profile.filled[r + tiers - 1]! < 2 || profile.figures[r + tiers - 1]! > profile.figures[lowest]!) continue;
    if (same(r)) {
      exact.push(r);
      like.push(r);
      continue;
    }
    const own = profile.columns.map((column) => textAt(column, r + tiers - 1)).filter((text) => text !== '');
    const met = own.filter((text) => names.has(text)).length;
    const begins = first !== undefined && textAt(first, r) === textAt(first, row);
    if (tiers === 1 && begins && met >= 2 && met >= own.length * 0.6) like.push(r);
  }
  return { exact, like };
}

/** Repeats of the header in the sheet of the header itself. */
function repeatsWithin(starts: readonly number[], row: number, repeats: readonly number[]): number[] {
  const to = starts.find((start) => start > row) ?? Number.POSITIVE_INFINITY;
  return repeats.filter((r) => r < to);
}

/**
 * The column in which a heading stands right above the header and above each of its repeats. Beside it may stand what is
 * the same each time, as in the head of a page.
 */
function headingsOf(
  profile: TableProfile,
  row: number,
  repeats: readonly number[],
): { column: number; also: readonly number[]; count: number } | undefined {
  if (repeats.length === 0) return undefined;
  const lines: number[] = [];
  for (const at of [row, ...repeats]) {
    const above = filledUpTo(profile, at - 1);
    // A year may be a heading; other figures are those of a row.
    if (above < 0 || filledIn(profile, above).some((k) => isPlainFigure(profile, k, above))) return undefined;
    lines.push(above);
  }
  const used = new Set(lines.flatMap((r) => filledIn(profile, r)));
  if (used.size > 5) return undefined;
  const alone = used.size === 1;
  const telling = [...used].filter((k) => {
    const texts = lines.map((r) => textAt(profile.columns[k]!, r));
    // Alone even a number tells headings apart; beside others it counts pages.
    const own = alone ? texts : texts.map((text) => text.replace(/\d+/g, '#'));
    if (own.some((text) => text === '')) return false;
    const distinct = new Set(own);
    const most = Math.max(...[...distinct].map((text) => own.filter((one) => one === text).length));
    return distinct.size >= 2 && most <= Math.max(1, own.length * 0.6);
  });
  if (telling.length !== 1) return undefined;
  const [column] = telling;
  const headings = lines.map((r) => textAt(profile.columns[column!]!, r));
  // A number between signs that counts up is that of the page.
  if (alone && headings.every((text) => FRAMED_NUMBER.test(text)) && countsUp(headings)) return undefined;
  if (lines.filter((r) => PAGE.test(rowPattern(profile, r)) && alone).length >= lines.length * 0.5) return undefined;
  // A number beside it that does not count pages tells headings apart too.
  const also = [...used].filter((k) => {
    const texts = lines.map((r) => textAt(profile.columns[k]!, r));
    return k !== column && new Set(texts).size === new Set(headings).size && !texts.includes('') && !countsUp(texts);
  });
  return { column: column!, also, count: lines.length };
}
