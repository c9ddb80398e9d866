import { isUnit } from '../glance/hint-words.ts';
import { CellKind, filledUpTo, type TableProfile, textAt } from '../glance/table-profile.ts';
import { guessHeader } from '../steps/header/guess-header.ts';
import { isPositioned } from '../table/table.ts';
import { groupedBy } from '../values/grouped-by.ts';
import type { Detector, Finding } from './finding.ts';
import { cornerLabels, firstLabel } from './header-labels.ts';
import { filledIn, headerGives, headerSteps, isPlainFigure, type Place, unnamedShare } from './header-steps.ts';

/** Tiers of a header beyond which none is proposed. */
const MAX_TIERS = 3;

/**
 * Where the header stands and over how many rows, with the headings that stand over each table where several stand one
 * under the other.
 */
export const header: Detector = {
  name: 'header',
  beforeHeader: true,
  find(input) {
    const { profile } = input;
    if (!isPositioned(profile.table) || profile.rows < 2) return [];
    const guess = guessHeader(profile.table);
    const places = candidates(profile, guess);
    const found: Finding[] = places.map(({ row, tiers, weight }) => ({
      steps: headerSteps(input, row, tiers),
      weight: weight - 2.5 * unnamedShare(profile, row, tiers) - (isTierLeft(profile, row, tiers) ? TIER_LEFT : 0),
      gives: headerGives(row, tiers),
    }));
    const labelled = places.flatMap((place) => {
      const first = firstLabel(input, place);
      return first === undefined ? [] : [first];
    });
    found.push(...labelled, ...places.flatMap((place) => cornerLabels(input, place) ?? []));
    // A row of figures names nothing: the table may have no header at all.
    const lowest = filledIn(profile, guess.row + guess.tiers - 1);
    const figures = lowest.filter((k) => isPlainFigure(profile, k, guess.row + guess.tiers - 1));
    const weight =
      figures.length >= lowest.length * 0.6
        ? 1
        : looksLikeThoseBelow(profile, Math.min(guess.row, firstWide(profile)))
          ? ONE_OF_ALL
          : beginsWithData(profile, guess.row)
            ? 1.9
            : undefined;
    if (weight !== undefined) found.push({ steps: [], weight, gives: 'no header', doubt: { code: 'no-header' } });
    return found;
  },
};

/** Kinds of cell that names of columns are not. */
const NO_NAMES: readonly number[] = [CellKind.figure, CellKind.date];
/** Rows that the first one is compared with. */
const MAX_COMPARED = 40;

/** The row has a single cell or is data itself, and the first wide row below it is of the same kinds as those that follow. */
function beginsWithData(profile: TableProfile, row: number): boolean {
  const isWide = (r: number) => profile.filled[r]! >= Math.max(3, profile.columns.length * 0.8);
  const wide: number[] = [];
  for (let r = 0; r < profile.rows && wide.length < MAX_COMPARED; r++) if (isWide(r)) wide.push(r);
  const [first, ...others] = wide;
  if (first === undefined || others.length < 3 || first < row || (first !== row && profile.filled[row] !== 1))
    return false;
  const usual = profile.columns.map((column) => others.filter((r) => column.kinds[r] === column.kinds[first]).length);
  const isAlike = usual.every((count) => count >= others.length * 0.8);
  const noNames = profile.columns.filter((column) => NO_NAMES.includes(column.kinds[first]!)).length;
  // Years and numbers that count up name columns; amounts with decimals do not.
  const hasAmounts = profile.columns.some(({ values }) => values[first]! % 1 !== 0 && !Number.isNaN(values[first]!));
  return isAlike && (first === row ? noNames >= 2 && hasAmounts : noNames >= 1);
}

/** What speaks for no header where the row that would be one reads as the rows below it. */
const ONE_OF_ALL = 6;
/** Rows that must tell what those below look like. */
const MIN_BELOW = 8;
/** No longer word is a code. */
const MAX_CODE = 24;

/** A word with a digit in it, as numbers of articles and code points are. */
const isCode = (text: string) => text.length <= MAX_CODE && /^\s*\S*\d\S*\s*$/.test(text);

/** Runs of letters and of digits as one sign each. */
const shapeOf = (text: string) =>
  text
    .trim()
    .replace(/\p{L}+/gu, 'a')
    .replace(/\d+/g, '9');

/** Digits beside signs or letters, or a name and its value: what names a column is seldom written as its cells are. */
const isShaped = (shape: string) => (/9/.test(shape) ? /[^9]/.test(shape) : /^a=/.test(shape));

/** In most columns the row holds a code where all rows do, or a text that the rows below say again: it is one of them. */
function looksLikeThoseBelow(profile: TableProfile, row: number): boolean {
  const columns = profile.columns.filter((column) => column.kinds[row] !== CellKind.blank);
  if (columns.length < Math.max(2, profile.columns.length * 0.8)) return false;
  const rowText = (r: number) => columns.map((column) => textAt(column, r)).join('\t');
  const header = rowText(row);
  const below: number[] = [];
  for (let r = row + 1; r < profile.rows && below.length < MAX_COMPARED; r++)
    if (columns.every((column) => column.kinds[r] !== CellKind.blank) && rowText(r) !== header) below.push(r);
  if (below.length < MIN_BELOW) return false;
  let [codes, said] = [0, 0];
  for (const column of columns) {
    const texts = below.map((r) => textAt(column, r));
    const own = textAt(column, row);
    // Codes of digits alone look like figures; a column of nothing but figures may well have such a name.
    const isText = below.filter((r) => column.kinds[r] === CellKind.text).length >= below.length * 0.3;
    const shape = shapeOf(own);
    const alike = isShaped(shape) && texts.every((text) => shapeOf(text) === shape);
    const isDate = column.kinds[row] === CellKind.date;
    if (((isText || isDate) && alike) || (isText && isCode(own) && texts.every(isCode))) codes++;
    else if (column.kinds[row] === CellKind.text && texts.filter((text) => text === own).length >= MIN_SAID) said++;
  }
  return codes > 0 && codes + said >= columns.length / 2;
}

/** The first row that fills all columns that rows fill. */
function firstWide(profile: TableProfile): number {
  const used = profile.columns.filter((column) => column.counts[CellKind.blank]! < profile.rows * 0.5).length;
  for (let r = 0; r < profile.rows; r++) if (profile.filled[r]! >= Math.max(2, used)) return r;
  return profile.rows;
}

/** Rows that say a text again for it to be a value. */
const MIN_SAID = 3;

function candidates(profile: TableProfile, guess: { row: number; tiers: number }): Place[] {
  const found: Place[] = [{ ...guess, weight: 2 }];
  const add = (row: number, tiers: number, weight: number) => {
    if (row < 0 || tiers < 1 || tiers > MAX_TIERS || row + tiers >= profile.rows) return;
    if (found.some((one) => one.row === row && one.tiers === tiers)) return;
    found.push({ row, tiers, weight });
  };
  const lowest = guess.row + guess.tiers - 1;
  const isOver = guess.tiers > 1 && (isUnitsRow(profile, lowest) || isFirstOfLabels(profile, lowest));
  if (isOver) found[0]!.weight = 0.5;
  // 'Unit: EUR' above the names is a line about the table, and no tier.
  if (guess.tiers > 1 && isPairLine(profile, guess.row)) {
    found[0]!.weight = 0.5;
    add(guess.row + 1, guess.tiers - 1, 2.2);
  }
  if (isTierBelow(profile, lowest + 1) && guess.tiers < MAX_TIERS) {
    found[0]!.weight = 0.8;
    add(guess.row, guess.tiers + 1, 2.2);
  }
  const [above, naming] = [aboveFigures(profile), namingRow(profile)];
  for (const bottom of new Set([lowest, lowest - 1, lowest + 1, above, naming, firstFull(profile)])) {
    if (bottom < 0 || bottom >= profile.rows - 1 || filledIn(profile, bottom).length === 0) continue;
    const units = isUnitsRow(profile, bottom);
    const base =
      bottom === lowest ? 1.8 : bottom === naming && naming !== above ? 2 : bottom === lowest - 1 && isOver ? 2.2 : 0.6;
    if (bottom === lowest + 1 && profile.figures[bottom]! > 0) continue;
    for (let tiers = 1; tiers <= MAX_TIERS; tiers++) {
      const top = bottom - tiers + 1;
      if (top < 0) break;
      if (tiers > 1) {
        // A tier spans what it stands over: two texts at least, and no figures but years.
        const filled = filledIn(profile, top);
        if (filled.length < 2 || isPairLine(profile, top) || filled.some((k) => isPlainFigure(profile, k, top))) break;
      }
      add(top, tiers, base - (units ? 1 : 0) - (tiers === guess.tiers ? 0 : 0.6) + (tiers > guess.tiers ? 0.2 : 0));
    }
  }
  const scale = scaleRow(profile);
  if (scale !== undefined) add(scale, 1, 2.4);
  return found;
}

/** A name that ends in a colon with its value beside it, and nothing else. */
function isPairLine(profile: TableProfile, row: number): boolean {
  const texts = filledIn(profile, row).map((k) => textAt(profile.columns[k]!, row));
  return texts.length === 2 && /\p{L}\s*:$/u.test(texts[0]!);
}

/** One text on its own under names, as others like it stand above rows further down or as one of the names says: no name. */
function isFirstOfLabels(profile: TableProfile, row: number): boolean {
  const [k, ...more] = filledIn(profile, row);
  if (k === undefined || more.length > 0) return false;
  const column = profile.columns[k]!;
  const isLone = (r: number) => profile.filled[r] === 1 && column.kinds[r] === CellKind.text;
  if (!isLone(row) || (profile.filled[row + 1] ?? 0) < 2) return false;
  if (
    row > 0 &&
    filledIn(profile, row - 1).some((one) => textAt(profile.columns[one]!, row - 1) === textAt(column, row))
  )
    return true;
  for (let r = row + 2; r + 1 < profile.rows; r++) if (isLone(r) && profile.filled[r + 1]! > 1) return true;
  return false;
}

/** Cells that a scale of dates or of numbers in a row has at least. */
const MIN_SCALE = 4;

/** The first row that names its columns by dates, or by numbers that count up, with a name or nothing in front. */
function scaleRow(profile: TableProfile): number | undefined {
  for (let r = 0; r < Math.min(profile.rows - 1, 40); r++) {
    const filled = filledIn(profile, r);
    const names = filled.filter((k) => profile.columns[k]!.kinds[r] === CellKind.text);
    const marks = filled.filter((k) => !names.includes(k));
    if (marks.length < MIN_SCALE || names.length > 3 || !marks.every((k, n) => n === 0 || k === marks[n - 1]! + 1))
      continue;
    const texts = marks.map((k) => textAt(profile.columns[k]!, r));
    // Times stand in the rows of timetables; a scale says each day once.
    const isDays = new Set(texts).size === texts.length && !texts.some((text) => /\d:\d/.test(text));
    const dated = isDays && marks.every((k) => profile.columns[k]!.kinds[r] === CellKind.date);
    const values = marks.map((k) => profile.columns[k]!.values[r]!);
    const counting = values.every((value, n) => Number.isInteger(value) && (n === 0 || value === values[n - 1]! + 1));
    // The row below goes on in other ways: it is no scale itself.
    const below = marks.map((k) => profile.columns[k]!.values[r + 1]!);
    const goesOn = below.every((value, n) => n === 0 || value === below[n - 1]! + 1);
    if (dated ? !marks.every((k) => profile.columns[k]!.kinds[r + 1] === CellKind.date) : counting && !goesOn) return r;
  }
  return undefined;
}

/** What speaks against a header whose names stand twice, while the row above tells them apart. */
const TIER_LEFT = 1.5;

/** A row of names stands right above, or names stand again under different texts of it. */
function isTierLeft(profile: TableProfile, row: number, tiers: number): boolean {
  const above = row - 1;
  const tier = above < 0 ? [] : filledIn(profile, above);
  if (tier.length < 2 || tier.some((k) => isPlainFigure(profile, k, above))) return false;
  if (isTier(profile, above)) return true;
  const lowest = filledIn(profile, row + tiers - 1);
  const under = (k: number) => tier.findLast((one) => one <= k);
  const groups = groupedBy(lowest, (k) => textAt(profile.columns[k]!, row + tiers - 1));
  const again = [...groups.values()].filter((own) => new Set(own.map(under)).size > 1);
  return again.length > 0 && again.flat().length >= lowest.length * 0.5;
}

/** Texts in a row that is no line of a title. */
const MIN_TIER = 4;

/** Several texts over columns of figures, and no pairs of name and value. */
function isTier(profile: TableProfile, row: number): boolean {
  const filled = filledIn(profile, row);
  const names = filled.filter((k) => profile.columns[k]!.kinds[row] === CellKind.text);
  if (names.length < MIN_TIER || names.length < filled.length) return false;
  if (names.some((k) => /:(?:\s|$)/.test(textAt(profile.columns[k]!, row)))) return false;
  return names.filter((k) => profile.columns[k]!.counts[CellKind.figure]! > 0).length >= names.length * 0.5;
}

/** Names under columns of figures alone, right below those that name all columns: codes of questions, say. */
function isTierBelow(profile: TableProfile, row: number): boolean {
  if (row >= profile.rows - 1 || profile.figures[row]! > 0 || !isTier(profile, row) || isUnitsRow(profile, row))
    return false;
  const names = filledIn(profile, row);
  const below = filledIn(profile, row + 1);
  return names.length < below.length && names.every((k) => profile.columns[k]!.kinds[row + 1] === CellKind.figure);
}

/** The last row of texts above the first rows that are full of figures; -1 where there are none. */
function aboveFigures(profile: TableProfile): number {
  for (let r = 1; r < Math.min(profile.rows, 60); r++) {
    if (profile.figures[r]! < 1 || profile.filled[r]! < 2) continue;
    const next = r + 1 < profile.rows ? profile.figures[r + 1]! : 1;
    if (next === 0) continue;
    return filledUpTo(profile, r - 1);
  }
  return -1;
}

/** The last row above the first figures that names several columns, where labels or lines stand between. */
function namingRow(profile: TableProfile): number {
  let row = aboveFigures(profile);
  for (let k = 0; k < MAX_BETWEEN && row >= 0 && profile.filled[row]! < 2; k++) row--;
  return row >= 0 && profile.filled[row]! >= 2 ? row : -1;
}

/** The first row that fills every column that is used; -1 where none does near the top. */
function firstFull(profile: TableProfile): number {
  const used = profile.columns.filter((column) => column.counts[CellKind.blank]! < profile.rows);
  for (let r = 0; r < Math.min(profile.rows, MAX_TOP); r++)
    if (used.length > 1 && used.every((column) => column.kinds[r] === CellKind.text)) return r;
  return -1;
}

/** Rows at the top that may hold the header. */
const MAX_TOP = 30;
/** Rows between the names of columns and the first figures. */
const MAX_BETWEEN = 5;

/** A row under the names that says units: few different words, over columns of figures alone. */
export function isUnitsRow(profile: TableProfile, row: number): boolean {
  const filled = filledIn(profile, row);
  if (filled.length === 0 || filled.some((k) => profile.columns[k]!.kinds[row] === CellKind.figure)) return false;
  const texts = filled.map((k) => textAt(profile.columns[k]!, row));
  const units = texts.filter((text) => isUnit(text)).length;
  if (units === texts.length) return true;
  return units >= texts.length * 0.6 && texts.every((text) => text.length <= 14);
}
