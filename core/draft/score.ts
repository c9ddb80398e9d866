import { bodyOf } from '../findings/body.ts';
import { rowSaysTotal } from '../findings/choose-rule.ts';
import type { DetectorInput } from '../findings/finding.ts';
import { nameKinds } from '../glance/period-names.ts';
import { CellKind, type ColumnProfile, distinctTexts, type TableProfile } from '../glance/table-profile.ts';

/** How many cells are of the kind that leads in their column, of how many that hold anything. */
export function purityOf({ columns }: TableProfile): { pure: number; filled: number } {
  let [pure, filled] = [0, 0];
  for (const column of columns) {
    const { counts } = column;
    const kinds = [counts[CellKind.figure]!, counts[CellKind.text]!, counts[CellKind.date]!];
    const all = kinds.reduce((sum, one) => sum + one, 0);
    const most = Math.max(...kinds);
    pure += most < all && isOfCodes(column) ? all : most;
    filled += all;
  }
  return { pure, filled };
}

/** Different texts that show whether a column holds codes. */
const MAX_CODES = 200;
const MIN_CODES = 8;

/** Words of one or two lengths, most of them with a digit, as hexadecimal numbers are: those of digits alone are no figures. */
function isOfCodes(column: ColumnProfile): boolean {
  const texts = distinctTexts(column, MAX_CODES).map((text) => text.trim());
  if (texts.length < MIN_CODES || texts.some((text) => !/^[\p{L}\d]+$/u.test(text))) return false;
  const lengths = new Set(texts.map((text) => text.length));
  return lengths.size <= 2 && texts.filter((text) => /\d/.test(text)).length >= texts.length * 0.8;
}

/** What a table without any name of a column loses. */
const NO_HEADER = 4;

/** How plainly a method describes the report, beside what its detectors said: see docs/draft.md for the reasons. */
export function quality(steps: number, input: DetectorInput): number {
  const { profile } = input;
  if (profile.rows === 0 || profile.columns.length === 0) return -50;
  const body = bodyOf(input);
  let score = 0;
  // Columns of one kind.
  const { pure, filled } = purityOf(profile);
  score += filled === 0 ? -5 : -25 * (1 - pure / filled);
  // Names that are there, unique and no values.
  const names = profile.columns.map((column) => column.name);
  const kinds = nameKinds(names);
  const unnamed = profile.columns.filter(
    (column) =>
      column.counts[CellKind.blank]! < profile.rows &&
      column.isUnnamed &&
      profile.table.fields[column.index]!.nameOrigin !== 'beside',
  ).length;
  const numbered = names.filter((name) => / \d+$/.test(name) && names.includes(name.replace(/ \d+$/, ''))).length;
  // Without any name the report has no header: that is one fault, not one for each column.
  const named = profile.columns.filter((column) => profile.table.fields[column.index]!.nameOrigin !== 'beside').length;
  score -= unnamed === named ? Math.min(NO_HEADER, 1.5 * unnamed) : 1.5 * unnamed;
  score -= numbered;
  score -= 0.4 * kinds.filter((kind) => kind !== undefined).length;
  score -= 0.3 * names.filter((name) => name.includes(' / ')).length;
  // A name that is a figure stands for a header that was taken from data.
  score -= 2 * names.filter((name, k) => /^[\d.,\s-]+$/.test(name) && kinds[k] === undefined).length;
  // Rows that are no data.
  const other = body.roles.filter((role) => role !== 'data').length;
  score -= 8 * (other / profile.rows) + (other > 0 ? 1 : 0);
  let totals = 0;
  for (let r = 0; r < profile.rows; r++) if (rowSaysTotal(profile, r)) totals++;
  if (body.figures.length > 0) score -= totals === 0 ? 0 : 1 + Math.min(6, 20 * (totals / profile.rows));
  // Blank keys.
  for (const column of body.keys.slice(0, 3)) score -= 2 * (column.counts[CellKind.blank]! / profile.rows);
  score -= 0.15 * steps;
  return score;
}
