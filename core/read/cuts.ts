/** Where fixed columns are divided: guessed from the blanks that the data lines share. */

/** Share of lines that may stand across a gap before it is no gap. */
const STRAY = 0.02;
const ROUNDS = 4;
/** Lines of a print-out are no wider than this; what is wider says nothing of its columns. */
const WIDEST = 4000;
/** Lines that tell where columns are divided, at least. */
const MIN_DATA = 3;
/** A line that ends with the number of its page, in several languages. Common practice. */
const PAGED =
  /\s(?:page|sheet|seite|blatt|p[áa]g(?:ina|\.)?|feuille|hoja|folio)[\s.:]*\d+(?:\s*(?:\/|of|von|de)\s*\d+)?\s*$/iu;
/** Shares of lines that may be heads, tried in turn. */
const ALLOWED = [0.08, 0.15, 0.3];

/**
 * Characters (from 0) at which columns begin, but for the first.
 * Page heads and titles run across the gaps: lines that do are left out and the gaps looked for again.
 */
export function guessCuts(given: readonly string[]): number[] {
  const lines = given.filter((line) => line.length <= WIDEST);
  const ruled = cutsOfRule(lines);
  if (ruled !== undefined) return ruled;
  let data = lines.filter((line) => /\d/.test(line) && line.trim() !== '' && !/^[\s=_.*+|-]+$/.test(line));
  const unpaged = data.filter((line) => !PAGED.test(line));
  if (unpaged.length >= MIN_DATA) data = unpaged;
  if (data.length < MIN_DATA) data = lines.filter((line) => line.trim() !== '');
  let best: number[] = [];
  let bestScore = 0;
  // Few heads or many: the cuts that divide the most lines into the most columns.
  for (const allowed of ALLOWED) {
    const cuts = cutsOfFitting(lines, data, allowed);
    const fitting = data.filter((line) => fitsCuts(line, cuts));
    // A wide gap inside of a cell is a column that was missed.
    const gaping = fitting.filter((line) => cellsOf(line, cuts).some((cell) => /\S\s{2,}\S/.test(cell))).length;
    const score = fitting.length ** 2 * Math.log2(1 + cuts.length) * (1 - (0.5 * gaping) / Math.max(1, fitting.length));
    if (score > bestScore) [best, bestScore] = [cuts, score];
  }
  const fitting = data.filter((line) => fitsCuts(line, best));
  // A head that two cuts cross says where the second belongs once the first has moved.
  const cuts = underOneName(
    lines,
    fitting,
    settled(lines, fitting, settled(lines, fitting, linedUp(lines, fitting, best))),
  );
  return betweenGlued(fitting, withGaps(fitting, cuts));
}

/** Shares of lines that begin a cell behind a wide gap at one character, and that no cut there may divide. */
const BEHIND_GAP = 0.8;
const UNDIVIDED = 0.9;

/** Also the cuts at wide gaps within a column, which totals and lines that are carried forward run across. */
function withGaps(data: readonly string[], cuts: readonly number[]): number[] {
  const found = [...cuts];
  for (const [k, from] of [0, ...cuts].entries()) {
    const own = data.filter((line) => fitsCuts(line, cuts) && line.slice(from, cuts[k] ?? line.length).trim() !== '');
    if (own.length < MIN_GAPS) continue;
    const starts = new Map<number, number>();
    for (const line of own)
      for (const gap of line.slice(from, cuts[k] ?? line.length).matchAll(/(?<=\S\s{2,})\S/g)) {
        const at = from + gap.index;
        starts.set(at, (starts.get(at) ?? 0) + 1);
      }
    for (const [at, count] of starts) {
      const whole = own.filter((line) => fitsCuts(line, [at])).length;
      if (count >= own.length * BEHIND_GAP && whole >= own.length * UNDIVIDED) found.push(at);
    }
  }
  return found.sort((a, b) => a - b);
}

/** Lines that show a gap which some run across. */
const MIN_GAPS = 8;

/** Two numbers without a blank between them: the sign of the second takes its place. */
export const GLUED = /(?<![\d.:/-])\d+(?:\.\d+)?-\d*\.\d+(?![\d:/-])/;
/** Share of lines with such a pair from which the columns touch each other. */
export const SHARE_OF_GLUED = 0.1;

/** Also the cuts where the numbers of two columns touch: no number of the first reaches over the sign of the second. */
function betweenGlued(data: readonly string[], cuts: readonly number[]): number[] {
  const found = [...cuts];
  for (const [k, from] of [0, ...cuts].entries()) {
    const cells = data.map((line) => line.slice(from, cuts[k] ?? line.length));
    const pairs = cells.flatMap((cell) => GLUED.exec(cell) ?? []);
    if (pairs.length < cells.length * SHARE_OF_GLUED) continue;
    const ends = new Set(cells.map((cell) => cell.trimEnd().length));
    const cut = Math.max(...cells.map((cell) => /^\s*-?\d+(?:\.\d+)?(?=-|\s+\S)/.exec(cell)?.[0].length ?? 0));
    const clear = cells.every((cell) => !/\S/.test(cell.slice(cut - 1, cut)) || /^(?:-|\s)/.test(cell.slice(cut)));
    if (clear && ends.size === 1 && cut > 0) found.push(from + cut);
  }
  return found.sort((a, b) => a - b);
}

/** Without cuts that a word of the header stands across, where the cells are one space apart: they are of one column. */
function underOneName(lines: readonly string[], data: readonly string[], cuts: readonly number[]): number[] {
  const first = lines.findIndex((line) => data.includes(line));
  const head = lines.slice(0, Math.max(0, first)).findLast((line) => isNameLine(line, cuts));
  if (head === undefined) return [...cuts];
  const kept = cuts.filter((cut) => fitsCuts(head, [cut]) || gapBefore(data, cut) >= 2);
  const isWithin = (at: number) => /^\S \S/.test(head.slice(at - 1, at + 2));
  const narrow = kept.filter((cut) => [cut - 1, cut, cut + 1].some(isWithin) && gapBefore(data, cut) === 1);
  // One space within a name and within each cell, while all other names and cells are further apart.
  const isOneName =
    narrow.length === 1 &&
    kept.length > 2 &&
    kept.every(
      (cut) => narrow.includes(cut) || (/\s{2}$/.test(head.slice(0, nameFrom(head, cut))) && gapBefore(data, cut) >= 2),
    );
  return isOneName ? kept.filter((cut) => !narrow.includes(cut)) : kept;
}

/** Where the name at a cut begins, or the next one behind it. */
function nameFrom(head: string, cut: number): number {
  const at = head.slice(cut).search(/\S/);
  return at < 0 ? head.length : cut + at;
}

export const RULE = /^\s*[-=_~]{2,}(?:\s+[-=_~]+)+\s*$/;
/** A rule whose columns are divided by crosses, under a header that is divided by bars. */
const CROSSED = /^\s*[-=]{2,}(?:\+[-=]+)+\s*$/;

/** A rule under the header states where the columns are, if nearly all lines keep to it. */
export function cutsOfRule(lines: readonly string[]): number[] | undefined {
  const left = lines.reduce((least, line) => (line.trim() === '' ? least : Math.min(least, line.search(/\S/))), 1000);
  // One that begins further right underlines sums.
  const rule = lines.find((line) => (RULE.test(line) || CROSSED.test(line)) && line.search(/\S/) <= left);
  if (rule === undefined) return undefined;
  if (CROSSED.test(rule)) {
    const cuts = [...rule.matchAll(/\+/g)].map((match) => match.index + 1);
    const data = lines.filter((line) => /\d/.test(line) && !CROSSED.test(line));
    const fitting = data.filter((line) => cuts.every((cut) => /[\s|]/.test(line[cut - 1] ?? ' ')));
    return data.length > 0 && fitting.length >= data.length * 0.8 ? cuts : undefined;
  }
  const starts = [...rule.matchAll(/[-=_~]+/g)].map((match) => match.index);
  const cuts = starts.slice(1);
  const data = lines.filter((line) => /\d/.test(line) && !RULE.test(line));
  const fitting = data.filter((line) => fitsCuts(line, cuts));
  return data.length > 0 && fitting.length >= data.length * 0.8 ? cuts : undefined;
}

/** Cells of a column begin alike, end alike, or have their decimal marks below each other. */
const LINED_UP = 0.6;

/** Share of lines under which a column is rarely filled: then a single space in front of it is no gap. */
const RARE = 0.15;

/** Blank characters of all lines round a cut. */
function gapBefore(data: readonly string[], cut: number): number {
  const blank = (at: number) => at >= 0 && data.every((line) => (line[at] ?? ' ') === ' ');
  let from = cut;
  while (blank(from - 1)) from--;
  let to = cut;
  while (to - cut < 2 && blank(to)) to++;
  return to - from;
}

/** Only lines that fill few of the other columns have a cell there: page heads, whose pieces line up with themselves. */
function isOfHeads(filling: readonly string[], cuts: readonly number[], k: number): boolean {
  const others = filling.filter((line) => {
    const rest = cellsOf(line, cuts).filter((_, c) => c !== k + 1);
    return rest.filter((cell) => cell.trim() !== '').length * 2 >= rest.length;
  });
  return cuts.length > 1 && others.length < filling.length * 0.3;
}

/** On every line a word stands one space behind another: columns of text end unlike, and leave wider gaps. */
function isOneText(filling: readonly string[], cut: number): boolean {
  return filling.every(
    (line) => /\p{L} $/u.test(line.slice(Math.max(0, cut - 2), cut)) && /^\p{L}/u.test(line.slice(cut)),
  );
}

/** Cuts behind which cells line up: the words of free text do not. */
function linedUp(lines: readonly string[], data: readonly string[], cuts: readonly number[]): number[] {
  const kept = [...cuts];
  const heads = lines.filter((line) => !/\d/.test(line) && /\S\s{2,}\p{L}/u.test(line) && fillsHalf(line, cuts));
  for (let k = kept.length - 1; k >= 0; k--) {
    const filling = data.filter((line) => line.slice(kept[k]!, kept[k + 1] ?? line.length).trim() !== '');
    const cells = filling.map((line) => line.slice(kept[k]!, kept[k + 1] ?? line.length));
    if (cells.length === 0) continue;
    const share = (place: (cell: string) => number) => {
      const counts = new Map<number, number>();
      for (const cell of cells) counts.set(place(cell), (counts.get(place(cell)) ?? 0) + 1);
      return Math.max(0, ...counts.values()) / cells.length;
    };
    const best = Math.max(
      share((cell) => cell.length - cell.trimStart().length),
      share((cell) => cell.trimEnd().length),
      share((cell) => cell.search(/[.,](?=\d+\s*$)|(?<=\d)(?!\S)/)),
    );
    // No name over a cell that stands one space behind another: the two are one text.
    const from = kept[k]!;
    const unnamed = heads.some(
      (head) => fitsCuts(head, [from]) && head.slice(from, kept[k + 1] ?? head.length).trim() === '',
    );
    const rare = cells.length < Math.max(2, data.length * RARE);
    const doubtful = (rare || unnamed) && gapBefore(data, from) < 2;
    const apart = isOfHeads(filling, kept, k) || isOneText(filling, from);
    if (best < LINED_UP || doubtful || apart) kept.splice(k, 1);
  }
  return kept;
}

function cutsOfFitting(lines: readonly string[], all: readonly string[], first: number): number[] {
  let data = all;
  let cuts: number[] = [];
  let allowed = first;
  for (let round = 0; round < ROUNDS; round++) {
    cuts = cutsOf(data, allowed);
    const fitting = data.filter((line) => fitsCuts(line, cuts) && fillsHalf(line, cuts));
    allowed = STRAY;
    if (fitting.length < 3 || fitting.length === data.length) {
      if (round > 0) break;
      continue;
    }
    data = fitting;
  }
  return withHeads(lines, data, cuts);
}

/** Each cut moves inside its gap to where it runs through the fewest words of any line: subtotals reach into the gaps of data. */
function settled(lines: readonly string[], data: readonly string[], cuts: readonly number[]): number[] {
  const width = data.reduce((most, line) => Math.max(most, line.length), 0);
  const filled = profile(data, width);
  const limit = Math.floor(data.length * STRAY);
  return cuts.map((cut) => {
    const others = cuts.filter((one) => one !== cut);
    // Heads run across many cuts and say nothing of this one.
    const reaching = lines.filter(
      (line) =>
        /\d|\S\s{2,}\S/.test(line) &&
        !fitsCuts(line, [cut]) &&
        (fitsCuts(line, others) || isNameLine(line, cuts) || endsOver(line, cut, others)),
    );
    const crossings = (at: number) => reaching.reduce((sum, line) => sum + (fitsCuts(line, [at]) ? 0 : 1), 0);
    let best = cut;
    let fewest = crossings(cut);
    const look = (at: number) => {
      const count = crossings(at);
      if (count < fewest) [best, fewest] = [at, count];
    };
    for (let at = cut + 1; at < width && filled[at - 1]! <= limit; at++) look(at);
    for (let at = cut - 1; at > 0 && filled[at]! <= limit; at--) look(at);
    return best;
  });
}

/** A sum at the end of a line whose text runs on across the columns in front of it. */
function endsOver(line: string, cut: number, others: readonly number[]): boolean {
  const from = /(?<=\S\s{2,})[-+\d][\d.,]*\s*$/.exec(line)?.index ?? line.length;
  return from < cut && others.every((other) => other <= from || fitsCuts(line, [other]));
}

/** Share of the other cuts that a line may cross and still say where one of them belongs. */
const FEW = 0.6;

/** A line of names, which a few wrong cuts may cross. */
function isNameLine(line: string, cuts: readonly number[]): boolean {
  return !/\d/.test(line) && fillsHalf(line, cuts) && crossed(line, cuts) <= cuts.length * FEW;
}

function crossed(line: string, cuts: readonly number[]): number {
  return cuts.filter((cut) => !fitsCuts(line, [cut])).length;
}

/**
 * One blank before three digits looks like a number with its thousands apart. Where a head over it has a word on either
 * side and a blank between, they are two columns after all.
 */
function withHeads(lines: readonly string[], data: readonly string[], cuts: readonly number[]): number[] {
  const heads = lines.filter((line) => line.trim() !== '' && !/\d/.test(line) && fitsCuts(line, cuts));
  const found = [...cuts];
  const width = data.reduce((most, line) => Math.max(most, line.length), 0);
  for (let at = 1; at < width; at++) {
    if (cuts.includes(at) || cuts.includes(at + 1) || data.some((line) => (line[at] ?? ' ') !== ' ')) continue;
    if (!isGroupBlank(data, at)) continue;
    const from = Math.max(0, ...cuts.filter((cut) => cut <= at));
    const to = Math.min(width, ...cuts.filter((cut) => cut > at));
    const parted = heads.some(
      (head) => head[at] === ' ' && head.slice(from, at).trim() !== '' && head.slice(at, to).trim() !== '',
    );
    if (parted) found.push(at + 1);
  }
  return found.sort((a, b) => a - b);
}

function cutsOf(lines: readonly string[], allowed: number): number[] {
  const width = lines.reduce((most, line) => Math.max(most, line.length), 0);
  const filled = profile(lines, width);
  const limit = Math.floor(lines.length * allowed);
  const cuts: number[] = [];
  for (let at = 0; at < width; ) {
    if (filled[at]! > limit) {
      at++;
      continue;
    }
    let end = at;
    while (end < width && filled[end]! <= limit) end++;
    // What stands flush right grows to the left: leave it the gap.
    if (at > 0 && end < width && !(end - at === 1 && isGroupBlank(lines, at)))
      cuts.push(isFlushRight(lines, end, filled, limit) ? at + 1 : end);
    at = end;
  }
  return cuts;
}

/** How many lines have something other than a blank at each character. */
export function profile(lines: readonly string[], width: number): Int32Array {
  const filled = new Int32Array(width);
  for (const line of lines) {
    for (let k = 0; k < line.length && k < width; k++) if (line.charCodeAt(k) > 32) filled[k]!++;
  }
  return filled;
}

/** The column that begins at a character ends alike on most lines, and begins unlike. */
function isFlushRight(lines: readonly string[], from: number, filled: Int32Array, limit: number): boolean {
  let to = from;
  while (to < filled.length && filled[to]! > limit) to++;
  const starts = new Set<number>();
  const ends = new Map<number, number>();
  let cells = 0;
  for (const line of lines) {
    const cell = line.slice(from, to);
    if (cell.trim() === '') continue;
    cells++;
    starts.add(cell.length - cell.trimStart().length);
    const end = cell.trimEnd().length;
    ends.set(end, (ends.get(end) ?? 0) + 1);
  }
  return starts.size > 1 && Math.max(0, ...ends.values()) > cells * 0.8;
}

function cellsOf(line: string, cuts: readonly number[]): string[] {
  return [0, ...cuts].map((from, k) => line.slice(from, cuts[k] ?? line.length));
}

/** Heads and labels fill few of the columns that data lines fill. */
export function fillsHalf(line: string, cuts: readonly number[]): boolean {
  const cells = cellsOf(line, cuts);
  return cells.filter((cell) => cell.trim() !== '').length * 2 >= cells.length;
}

/** A single blank between the thousands of numbers, as in 14 220: three digits behind it on nearly every line. */
function isGroupBlank(lines: readonly string[], at: number): boolean {
  const cells = lines.filter((line) => (line[at + 1] ?? ' ') !== ' ');
  const grouped = cells.filter(
    (line) =>
      /^\d{3}(?!\d)/.test(line.slice(at + 1)) && /(?:^|\s)(?:[1-9]\d{0,2})?$/.test(line.slice(Math.max(0, at - 5), at)),
  );
  return cells.length > 0 && grouped.length > cells.length * 0.9;
}

/** No word of the line stands across a cut. */
export function fitsCuts(line: string, cuts: readonly number[]): boolean {
  return cuts.every((cut) => cut >= line.length || line.charCodeAt(cut) <= 32 || line.charCodeAt(cut - 1) <= 32);
}
