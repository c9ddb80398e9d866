import { isUnit, saysNote, saysTotal } from '../glance/hint-words.ts';
import { CellKind, isYear, type TableProfile, textAt } from '../glance/table-profile.ts';
import { runStarts } from '../rules/placed.ts';
import type { PlainRule } from '../rules/rules.ts';
import { guessHeader } from '../steps/header/guess-header.ts';
import { isPositioned } from '../table/table.ts';
import { counted, few } from '../values/counted.ts';
import { groupedBy } from '../values/grouped-by.ts';
import { countsUp, PAGE, rowPattern } from './body.ts';
import type { Detector, DetectorInput, Finding, Proposal } from './finding.ts';

/** What is between the tiers of a name. */
export const TIER_JOIN = ' / ';
/** Tiers of a header beyond which none is proposed. */
const MAX_TIERS = 3;

/**
 * Where the header stands and over how many rows, with the headings that stand over each table where several stand one
 * under the other.
 */
export const header: Detector = {
  name: 'header',
  find(input) {
    const { profile } = input;
    if (!isPositioned(profile.table) || profile.rows < 2) return [];
    const guess = guessHeader(profile.table);
    const places = candidates(profile, guess);
    const found: Finding[] = places.map(({ row, tiers, weight }) => ({
      steps: headerSteps(input, row, tiers),
      weight: weight - 2.5 * unnamedShare(profile, row, tiers) - (isTierLeft(profile, row, tiers) ? TIER_LEFT : 0),
      gives: `header in ${tiers === 1 ? '1 row' : `${tiers} rows`} from row ${row + 1}`,
    }));
    const labelled = places.flatMap((place) => {
      const first = firstLabel(input, place);
      return first === undefined ? [] : [first];
    });
    found.push(...labelled, ...places.flatMap((place) => cornerLabels(input, place) ?? []));
    // A row of figures names nothing: the table may have no header at all.
    const lowest = filledIn(profile, guess.row + guess.tiers - 1);
    if (lowest.filter((k) => isPlainFigure(profile, k, guess.row + guess.tiers - 1)).length >= lowest.length * 0.6)
      found.push({ steps: [], weight: 1, gives: 'no header', doubt: { code: 'no-header' } });
    else if (beginsWithData(profile, guess.row))
      found.push({ steps: [], weight: 1.9, gives: 'no header', doubt: { code: 'no-header' } });
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

/** Letters of a text that is a label rather than a remark. */
const MAX_LABEL = 40;

/** The label of the first block stands right above the header, those of the other blocks between the rows. */
function firstLabel(input: DetectorInput, { row, tiers, weight }: Place): Finding | undefined {
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
  let below = row + tiers;
  while (below < profile.rows && profile.filled[below] === 0) below++;
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
    gives: `header in ${tiers === 1 ? '1 row' : `${tiers} rows`} from row ${row + 1}, under the first label`,
  };
}

/** Names that a header has beside its corner, where it labels the rows below. */
const MIN_BESIDE_CORNER = 2;

/** The header stands again above each block with another text in its first cell: '2030 | Jan | Feb', '2031 | Jan | Feb'. */
function cornerLabels(input: DetectorInput, { row, tiers, weight }: Place): Finding | undefined {
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
    gives: `header in ${tiers === 1 ? '1 row' : `${tiers} rows`} from row ${row + 1}, its first cells as labels`,
  };
}

/** Two where a label stands above the heading of some headers, one above each of them alone, and not above all. */
function labelLevels(
  { profile }: DetectorInput,
  row: number,
  repeats: readonly number[],
  isLabel: (row: number) => boolean,
): number {
  const above = (from: number) => {
    let at = from - 1;
    while (at >= 0 && profile.filled[at] === 0) at--;
    return at;
  };
  const headings = [row, ...repeats].map(above);
  if (headings.some((at) => at < 0 || !isLabel(at))) return 1;
  const outer = headings.filter((at) => above(at) >= 0 && isLabel(above(at)));
  return outer.length >= 2 && outer.includes(headings[0]!) && outer.length < headings.length ? 2 : 1;
}

/** What labels that are carried weigh, and a little for the first of them. */
const LABELLED = 1.4;

interface Place {
  row: number;
  tiers: number;
  weight: number;
}

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
      if (tiers > 1) {
        // A tier spans what it stands over: two texts at least, and no figures but years.
        const filled = filledIn(profile, top);
        if (filled.length < 2 || filled.some((k) => isPlainFigure(profile, k, top))) break;
      }
      add(top, tiers, base - (units ? 1 : 0) - (tiers === guess.tiers ? 0 : 0.6) + (tiers > guess.tiers ? 0.2 : 0));
    }
  }
  const scale = scaleRow(profile);
  if (scale !== undefined) add(scale, 1, 2.4);
  return found;
}

/** One text on its own under names, as others like it stand above rows further down: the first label, and no name. */
function isFirstOfLabels(profile: TableProfile, row: number): boolean {
  const [k, ...more] = filledIn(profile, row);
  if (k === undefined || more.length > 0) return false;
  const column = profile.columns[k]!;
  const isLone = (r: number) => profile.filled[r] === 1 && column.kinds[r] === CellKind.text;
  if (!isLone(row) || (profile.filled[row + 1] ?? 0) < 2) return false;
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

/** Share of the columns with figures below that no tier of the header names. */
function unnamedShare(profile: TableProfile, row: number, tiers: number): number {
  let [unnamed, all] = [0, 0];
  profile.columns.forEach((column) => {
    if (column.counts[CellKind.figure]! === 0) return;
    all++;
    for (let k = 0; k < tiers; k++) if (column.kinds[row + k] !== CellKind.blank) return;
    unnamed++;
  });
  return all === 0 ? 0 : unnamed / all;
}

function isPlainFigure(profile: TableProfile, k: number, row: number): boolean {
  const column = profile.columns[k]!;
  return column.kinds[row] === CellKind.figure && !isYear(column.values[row]!);
}

/** The last row of texts above the first rows that are full of figures; -1 where there are none. */
function aboveFigures(profile: TableProfile): number {
  for (let r = 1; r < Math.min(profile.rows, 60); r++) {
    if (profile.figures[r]! < 1 || profile.filled[r]! < 2) continue;
    const next = r + 1 < profile.rows ? profile.figures[r + 1]! : 1;
    if (next === 0) continue;
    let above = r - 1;
    while (above >= 0 && profile.filled[above] === 0) above--;
    return above;
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

function filledIn(profile: TableProfile, row: number): number[] {
  return profile.columns.flatMap((column, k) =>
    row < profile.rows && column.kinds[row] !== CellKind.blank && column.kinds[row] !== CellKind.rule ? [k] : [],
  );
}

/** A row under the names that says units: few different words, over columns of figures alone. */
export function isUnitsRow(profile: TableProfile, row: number): boolean {
  const filled = filledIn(profile, row);
  if (filled.length === 0 || filled.some((k) => profile.columns[k]!.kinds[row] === CellKind.figure)) return false;
  const texts = filled.map((k) => textAt(profile.columns[k]!, row));
  const units = texts.filter((text) => isUnit(text)).length;
  if (units === texts.length) return true;
  return units >= texts.length * 0.6 && texts.every((text) => text.length <= 14);
}

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
function repeatsOf(profile: TableProfile, row: number, tiers: number): { exact: number[]; like: number[] } {
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
    let above = at - 1;
    while (above >= 0 && profile.filled[above] === 0) above--;
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
  if (lines.filter((r) => PAGE.test(rowPattern(profile, r)) && alone).length >= lines.length * 0.5) return undefined;
  // A number beside it that does not count pages tells headings apart too.
  const also = [...used].filter((k) => {
    const texts = lines.map((r) => textAt(profile.columns[k]!, r));
    return (
      k !== column &&
      new Set(texts).size === new Set(lines.map((r) => textAt(profile.columns[column!]!, r))).size &&
      !texts.includes('') &&
      !countsUp(texts)
    );
  });
  return { column: column!, also, count: lines.length };
}
