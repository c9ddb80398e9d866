/** Labels that stand above the first header, or in the corner of each. */
import { saysNote, saysTotal } from '../glance/hint-words.ts';
import { CellKind, filledFrom, filledUpTo, textAt } from '../glance/table-profile.ts';
import { counted, few } from '../values/counted.ts';
import type { DetectorInput, Finding } from './finding.ts';
import { filledIn, headerGives, headerRule, headerSteps, type Place, repeatsOf, unnamedShare } from './header-steps.ts';

/** Letters of a text that is a label rather than a remark. */
const MAX_LABEL = 40;

/** The label of the first block stands right above the header, those of the other blocks between the rows. */
export function firstLabel(input: DetectorInput, { row, tiers, weight }: Place): Finding | undefined {
  const { profile } = input;
  const label = row < 1 ? [] : filledIn(profile, row - 1);
  const column = profile.columns[label[0] ?? 0]!;
  const isNamed = filledIn(profile, row + tiers - 1).length > 1;
  if (!isNamed || label.length !== 1 || column.kinds[row - 1] !== CellKind.text) return undefined;
  const isLabel = (r: number) => {
    const text = textAt(column, r);
    const lone = profile.filled[r] === 1 && column.kinds[r] === CellKind.text;
    return lone && text.length <= MAX_LABEL && !saysNote(text) && !saysTotal(text);
  };
  const below = filledFrom(profile, row + tiers);
  if (below >= profile.rows || profile.filled[below]! < 2) return undefined;
  const others: number[] = [];
  for (let r = below + 1; r + 1 < profile.rows; r++) if (isLabel(r) && profile.filled[r + 1]! > 1) others.push(r);
  if (!isLabel(row - 1) || others.length === 0) return undefined;
  // Below each other with a heading each, a table has its own way; here two labels stand above some of the headers.
  const repeats = repeatsOf(profile, row, tiers).like;
  const levels = repeats.length === 0 ? 1 : labelLevels(input, row, repeats, isLabel);
  if (levels === 1 && repeats.length > 0) return undefined;
  return {
    steps: [
      {
        kind: 'carry',
        params: {
          from: column.name,
          rule: { test: 'only', columns: [column.name] },
          into: 'Group',
          ...(levels > 1 ? { outer: ['Section'] } : {}),
          ...(input.within === undefined ? {} : { within: input.within }),
        },
        why: `${textAt(column, row - 1)} is directly above the header, and ${counted(others.length, 'label')} like it between the rows, for example ${textAt(column, others[0]!)}`,
      },
      // The headings are labels of the innermost level now.
      ...headerSteps(input, row, tiers).slice(levels > 1 ? -1 : 0),
    ],
    weight: weight - 2.5 * unnamedShare(profile, row, tiers) + LABELLED * levels,
    gives: `${headerGives(row, tiers)}, under the first label`,
  };
}

/** Names that a header has beside its corner, where it labels the rows below. */
const MIN_BESIDE_CORNER = 2;

/** The header stands again above each block with another text in its first cell: '2030 | Jan | Feb', '2031 | Jan | Feb'. */
export function cornerLabels(input: DetectorInput, { row, tiers, weight }: Place): Finding | undefined {
  const { profile } = input;
  const names = filledIn(profile, row);
  const corner = profile.columns[names[0] ?? -1];
  if (corner === undefined || names.length <= MIN_BESIDE_CORNER) return undefined;
  const same = (r: number) =>
    profile.columns.every((column) => {
      for (let k = 0; k < tiers; k++)
        if (column !== corner && textAt(column, row + k) !== textAt(column, r + k)) return false;
      return true;
    });
  const labels = [textAt(corner, row)];
  for (let r = row + tiers; r + tiers < profile.rows; r++)
    if (corner.kinds[r] !== CellKind.blank && same(r)) labels.push(textAt(corner, r));
  if (labels.length < 2 || new Set(labels).size < labels.length) return undefined;
  const [step] = headerSteps(input, row, tiers).slice(-1);
  // The rule must find the first of them by what they share.
  const at = headerRule({ ...profile, columns: profile.columns.filter((column) => column !== corner) }, row, false);
  return {
    steps: [
      {
        ...step!,
        params: { ...step!.params, at: row === 0 ? null : (at ?? null), corner: 'Group' },
        why: `the header is repeated ${labels.length - 1} times below, each time with another text in its first cell, for example ${few(labels.slice(0, 3))}`,
      },
    ],
    weight: weight - 2.5 * unnamedShare(profile, row, tiers) + LABELLED,
    gives: `${headerGives(row, tiers)}, its first cells as labels`,
  };
}

/** Two where a label stands above the heading of some headers, one above each of them alone, and not above all. */
function labelLevels(
  { profile }: DetectorInput,
  row: number,
  repeats: readonly number[],
  isLabel: (row: number) => boolean,
): number {
  const above = (row: number) => filledUpTo(profile, row - 1);
  const headings = [row, ...repeats].map(above);
  if (headings.some((at) => at < 0 || !isLabel(at))) return 1;
  const outer = headings.filter((at) => above(at) >= 0 && isLabel(above(at)));
  return outer.length >= 2 && outer.includes(headings[0]!) && outer.length < headings.length ? 2 : 1;
}

/** What labels that are carried weigh, and a little for the first of them. */
const LABELLED = 1.4;
