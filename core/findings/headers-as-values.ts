import { columnOfKinds, type NameKind, nameKinds } from '../glance/period-names.ts';
import { CellKind, type ColumnProfile, distinctTexts, isYear } from '../glance/table-profile.ts';
import type { ColumnSet } from '../kinds/column-set.ts';
import { decimalsOf } from '../rows/sums.ts';
import { uniqueName } from '../table/table.ts';
import { groupedBy } from '../values/grouped-by.ts';
import { escapeRegExp } from '../values/text.ts';
import { highestMark, ratings } from './answers.ts';
import { type Body, bodyOf } from './body.ts';
import { firstPicking } from './column-sets.ts';
import type { Doubt } from './doubt.ts';
import type { Detector, DetectorInput, Finding, Proposal } from './finding.ts';
import { TIER_JOIN } from './header-steps.ts';

const MAY_BE_CLASSES: Doubt = { code: 'may-be-classes' };

const KEPT: Finding = { steps: [], weight: 0, gives: 'keep the columns' };
/** What speaks for cells of pairs of names, such as distances: the names stand across and down. */
const IN_PAIRS = 2.6;

/** Column names that are values: periods and classes across that go down, over one or more tiers. */
export const headersAsValues: Detector = {
  name: 'across',
  find(input) {
    const body = bodyOf(input);
    const crossed = markedColumns(body);
    if (crossed.length >= MIN_CROSSED) return [goingDown(input, crossed, [], CROSSED), KEPT];
    const { pairs, lists } = body;
    if (pairs.length > 0) return [{ ...goingDown(input, pairs, [], IN_PAIRS), doubt: undefined }, KEPT];
    if (lists.length > 0 && lists.every(({ isUnnamed }) => !isUnnamed))
      return [goingDown(input, lists, nameKinds(lists.map(({ name }) => name)), CROSSED), KEPT];
    const going = withoutKeys(input, movable(body));
    if (going.length < 2) return [];
    const rated = ratings(going);
    if (rated.length > 0) return [ratingsDown(input, rated), KEPT];
    const tiered = going.filter((column) => column.name.includes(TIER_JOIN));
    if (tiered.length >= 2 && tiered.length >= going.length * 0.5) return [...byTiers(input, body, tiered), KEPT];
    const kinds = nameKinds(going.map((column) => column.name));
    const named = going.filter((_, k) => kinds[k] !== undefined && kinds[k] !== 'class');
    const classes = going.filter((_, k) => kinds[k] === 'class');
    if (named.length >= 2 && isQuestions(named))
      return [{ ...KEPT, doubt: { code: 'may-be-quarters', names: named.map(({ name }) => name) } }];
    if (named.length >= 2) return [goingDown(input, named, nameKinds(named.map((c) => c.name)), 2.5), KEPT];
    if (classes.length >= 2 && classes.length >= going.length - 1)
      return [goingDown(input, classes.length === going.length - 1 ? going : classes, kinds, 2), KEPT];
    const common = commonSplit(going.map((column) => column.name));
    if (common !== undefined) return [...bySplit(input, going, common), KEPT];
    // Columns without names would have nothing to say for themselves.
    if (going.some((column) => column.isUnnamed)) return [];
    const weight = crossWeight(input, body, going);
    if (weight > -0.5) return [goingDown(input, going, [], weight), { ...KEPT, doubt: MAY_BE_CLASSES }];
    // Separate measures differ in size or decimals; what looks alike may be classes of one.
    if (isRecords(body, going)) return [];
    return sameDecimals(going.map((column) => profileOf([column], body))) ? [{ ...KEPT, doubt: MAY_BE_CLASSES }] : [];
  },
};

/** Columns that a sum across must cover to show that the others are keys, such as numbers of accounts. */
const MIN_SUMMED = 3;

/** Where one sum covers all columns from its first to its last, figures in front of the first are keys. */
function withoutKeys(input: DetectorInput, going: readonly ColumnProfile[]): readonly ColumnProfile[] {
  const summed = input.sums.find(({ of }) => of.length >= MIN_SUMMED)?.of;
  if (summed === undefined || input.sums.length > 1) return going;
  const own = going.filter(({ name }) => summed.includes(name));
  const behind = going.filter(({ index }) => index >= (own[0]?.index ?? 0));
  const inFront = going.filter(({ index }) => index < (own[0]?.index ?? 0));
  const areKeys = inFront.every(({ values }) =>
    values.every((value) => Number.isNaN(value) || Number.isInteger(value)),
  );
  return own.length === summed.length && behind.length === own.length && areKeys ? own : going;
}

/** Columns of figures, and those that are blank throughout between them. */
function movable(body: Body): ColumnProfile[] {
  const figures = new Set(body.figures.map((column) => column.index));
  const kinds = nameKinds(body.profile.columns.map((column) => column.name.split(TIER_JOIN)[0]!));
  const coded = codedPeriods(body.profile.columns, kinds);
  const inGrid = gridColumns(body);
  return body.profile.columns.filter((column, k) => {
    if (figures.has(column.index)) return true;
    const blank = column.counts[CellKind.blank]! + column.counts[CellKind.missing]! === body.profile.rows;
    if (coded.has(k) || inGrid.has(k)) return true;
    return kinds[k] !== undefined && (blank || column.counts[CellKind.figure]! > 0 || isOfTimes(column));
  });
}

/** Columns under two tiers of which each text of the upper stands over the same names: with figures or times under some, all go. */
function gridColumns({ profile: { columns }, figures }: Body): Set<number> {
  const tiered = columns.flatMap(({ name }, k) => {
    const [upper, lower, ...more] = name.split(TIER_JOIN);
    return lower === undefined || more.length > 0 ? [] : [{ k, upper: upper!, lower }];
  });
  const groups = [...groupedBy(tiered, ({ upper }) => upper).values()];
  const lowers = groups.map((own) => own.map(({ lower }) => lower).join('\n'));
  const isGrid = groups.length >= 2 && groups[0]!.length >= 2 && new Set(lowers).size === 1;
  const holdsValues = tiered.some(({ k }) => figures.includes(columns[k]!) || isOfTimes(columns[k]!));
  return new Set(isGrid && holdsValues ? tiered.map(({ k }) => k) : []);
}

const isOfTimes = ({ counts }: ColumnProfile) => counts[CellKind.date]! > 0 && counts[CellKind.text] === 0;

/** Every tier of the names goes down, and one mark is left in each row. */
function ratingsDown(input: DetectorInput, going: readonly ColumnProfile[]): Finding {
  const names = going.map((column) => column.name);
  const depth = Math.max(...names.map((name) => name.split(TIER_JOIN).length));
  const taken = new Set(othersThan(input, names));
  const parts = Array.from({ length: depth }, (_, t) => ({
    as: 'column',
    name: uniqueName(t === 0 ? 'Question' : 'Part', taken),
  }));
  return {
    steps: [
      {
        kind: 'unpivot',
        params: {
          columns: setOf(input, names),
          split: depth > 1 ? TIER_JOIN : null,
          template: null,
          pattern: null,
          parts,
          value: uniqueName('Answer', taken),
          blanks: 'drop',
        },
        why: `${shownNames(names)}: questions, answered on one scale`,
      },
    ],
    weight: 2.4,
    doubt: { code: 'may-be-measures', names },
    gives: `${names.length} questions go down`,
  };
}

/** Answers on a scale under Q1, Q2, Q3: questions, where quarters would count something. */
function isQuestions(columns: readonly ColumnProfile[]): boolean {
  if (!columns.every(({ name }) => /^[QF]\d{1,2}$/i.test(name))) return false;
  return columns.every(({ values }) => !Number.isNaN(highestMark(values, 0)));
}

/** Different texts of a column that are looked at. */
const MAX_PAIRED = 200;
const NAME_AND_FIGURE = /^\p{L}[^()]*\([\d\s.,'%]+\)$/u;

/** Letters of a code, and different codes of a plan such as a rota. */
const MAX_CODE = 6;
const MAX_CODES = 15;

/** Columns of periods that hold a few short codes, the same ones under each. */
function codedPeriods(columns: readonly ColumnProfile[], kinds: readonly (NameKind | undefined)[]): Set<number> {
  const own = columns.flatMap((column, k) => (kinds[k] !== undefined && column.counts[CellKind.text]! > 0 ? [k] : []));
  const codes = new Set(own.flatMap((k) => distinctTexts(columns[k]!, MAX_CODES + 1)));
  const short = codes.size <= MAX_CODES && [...codes].every((text) => text.length <= MAX_CODE);
  // A name with its figure in each cell is one value of its period too: 'Hask (1,203)'.
  const isPaired = own.every((k) => distinctTexts(columns[k]!, MAX_PAIRED).every((text) => NAME_AND_FIGURE.test(text)));
  return new Set(own.length >= MIN_CROSSED && (short || isPaired) ? own : []);
}

const MIN_CROSSED = 3;
/** What speaks for columns that hold nothing but a mark: their names are what is marked. */
const CROSSED = 1.5;

/** Columns behind the keys that are blank or hold one and the same mark. */
function markedColumns(body: Body): ColumnProfile[] {
  const marks = body.profile.columns.map((column) => {
    const texts = column.counts[CellKind.figure]! > 0 ? [] : distinctTexts(column, MAX_CODES + 1);
    return texts.length === 1 && texts[0]!.length <= 3 && column.counts[CellKind.blank]! > 0 ? texts[0] : undefined;
  });
  const [mark] = marks.filter((text) => text !== undefined);
  const own = body.profile.columns.filter((_, k) => marks[k] === mark && mark !== undefined);
  return own.length >= MIN_CROSSED && own.every((column, k) => k === 0 || column.index === own[k - 1]!.index + 1)
    ? own
    : [];
}

function goingDown(
  input: DetectorInput,
  going: readonly ColumnProfile[],
  kinds: readonly (NameKind | undefined)[],
  weight: number,
): Finding {
  const name = columnOfKinds(kinds);
  const periods = kinds.length > 0 && kinds.every((kind) => kind !== undefined);
  const blanks = going.some((column) => column.counts[CellKind.blank]! > 0);
  const names = going.map((column) => column.name);
  return {
    steps: [
      {
        kind: 'unpivot',
        params: {
          columns: setOf(input, names),
          split: null,
          template: null,
          pattern: null,
          parts: [{ as: 'column', name: freeName(input, names, name) }],
          value: freeName(input, names, 'Value'),
          blanks: blanks ? 'drop' : 'keep',
        },
        why: periods
          ? `${shownNames(names)} are values of ${name.toLowerCase()}, not names of what is measured`
          : `${shownNames(names)} measure the same: ${input.sums.length > 0 ? 'a column of the report sums them' : 'figures of one kind under each'}`,
      },
    ],
    weight,
    ...(periods || weight >= 2.5 ? {} : { doubt: { code: 'may-be-measures' as const, names } }),
    gives: `${names.length} columns go down as ${name}`,
  };
}

/** Names that are all of one kind are recognized by it, so that next month's are found; else all but those that stay. */
function setOf(input: DetectorInput, names: readonly string[]): ColumnSet {
  return firstPicking(input.profile.table, names, [{ by: 'year' }, { by: 'month' }]) ?? allBut(input, names);
}

function allBut(input: DetectorInput, names: readonly string[]): ColumnSet {
  return { by: 'all-but', names: othersThan(input, names) };
}

function othersThan(input: DetectorInput, names: readonly string[]): string[] {
  return input.profile.table.fields.map((field) => field.name).filter((name) => !names.includes(name));
}

function freeName(input: DetectorInput, gone: readonly string[], wanted: string): string {
  return uniqueName(wanted, new Set(othersThan(input, gone)));
}

/** Each tier of the names is a value or the name of what is measured; the measures stay as columns. */
function byTiers(input: DetectorInput, body: Body, going: readonly ColumnProfile[]): Finding[] {
  const names = going.map((column) => column.name.split(TIER_JOIN));
  const depth = Math.max(...names.map((tiers) => tiers.length));
  const tiers = Array.from({ length: depth }, (_, t) => {
    const texts = names.map((parts) => parts[t] ?? '');
    const distinct = [...new Set(texts.filter((text) => text !== ''))];
    const kinds = nameKinds(distinct);
    const told = kinds.filter((kind) => kind !== undefined);
    return {
      distinct,
      kinds,
      period: distinct.length > 0 && told.length >= distinct.length * 0.8,
    };
  });
  const measure = measuresAt(input, names, tiers, going, body);
  return measure.map(({ each, weight }, k) => {
    const columns = tiers.map((tier, t) => ({ t, name: columnOfKinds(tier.kinds) }));
    const used = new Set<string>();
    const parts = columns.map(({ t, name }) => {
      if (t === each) return { as: 'each' };
      let own = freeName(
        input,
        going.map((column) => column.name),
        name,
      );
      while (used.has(own)) own = `${own} ${used.size + 1}`;
      used.add(own);
      return { as: 'column', name: own };
    });
    const down = columns.filter(({ t }) => t !== each).map(({ name }) => name.toLowerCase());
    const step: Proposal = {
      kind: 'unpivot',
      params: {
        columns: setOfTiers(
          input,
          going.map((column) => column.name),
        ),
        split: TIER_JOIN,
        template: null,
        pattern: null,
        parts,
        value: freeName(input, [], 'Value'),
        blanks: going.some((column) => column.counts[CellKind.blank]! > 0) ? 'drop' : 'keep',
      },
      why:
        each < 0
          ? `all ${depth} tiers of the names are values`
          : `${shownNames(tiers[each]!.distinct)} ${tiers[each]!.distinct.length === 1 ? 'is' : 'are'} what is measured, under each of ${shownNames(tiers.filter((_, t) => t !== each).flatMap((tier) => tier.distinct))}`,
    };
    return {
      steps: [step],
      weight: weight - k * 0.01,
      ...(weight >= 2.4 ? {} : { doubt: { code: 'open-tiers' as const } }),
      gives:
        each < 0
          ? 'one column of figures'
          : `${down.join(' and ')} down, one column for each of ${shownNames(tiers[each]!.distinct)}`,
    };
  });
}

function setOfTiers(input: DetectorInput, names: readonly string[]): ColumnSet {
  return firstPicking(input.profile.table, names, [{ by: 'contains', text: TIER_JOIN }]) ?? allBut(input, names);
}

interface Tier {
  distinct: readonly string[];
  period: boolean;
}

/** Which tier names what is measured, -1 for none, the likeliest first. */
function measuresAt(
  input: DetectorInput,
  names: readonly (readonly string[])[],
  tiers: readonly Tier[],
  going: readonly ColumnProfile[],
  body: Body,
): { each: number; weight: number }[] {
  const open = tiers.flatMap((tier, t) => (tier.period ? [] : [t]));
  const periods = tiers.length - open.length;
  if (open.length === 0) return [{ each: -1, weight: 2.5 }];
  // Names that only go on in the next row make no grid of uppers and lowers.
  const grid = tiers.reduce((product, tier) => product * Math.max(1, tier.distinct.length), 1);
  if (grid > names.length * 1.6) return [];
  const summed = summedTiers(input, tiers.length);
  const isOfKinds = (t: number) => haveOwnKinds(going, names, t);
  const isClasses = (t: number) =>
    summed.has(t) || (tiers[t]!.distinct.length > 1 && likeProfiles(profilesOf(going, names, t, body)));
  if (periods > 0) {
    // Beside a tier of periods the one that is left names measures, unless the report sums over it.
    const found: { each: number; weight: number }[] = [];
    for (const t of open) {
      // A report that sums over the periods alone, and not over these, has measures there.
      const proven = summed.size > 0 || !sameDecimals(profilesOf(going, names, t, body));
      found.push({ each: t, weight: summed.has(t) ? 0.8 : proven ? 2.5 : 2.3 });
    }
    found.push({ each: -1, weight: open.every((t) => summed.has(t)) ? 2.6 : 0.4 });
    return found.sort((a, b) => b.weight - a.weight);
  }
  const found = open.map((t) => ({
    each: t,
    weight:
      (isOfKinds(t) ? 2.5 : 1.2) +
      (summed.has(t) ? -1 : 0) +
      (isClasses(t) ? 0 : 0.3) +
      (t === tiers.length - 1 ? 0.2 : 0),
  }));
  found.push({ each: -1, weight: open.every((t) => summed.has(t)) ? 2.6 : 0.5 });
  return found.sort((a, b) => b.weight - a.weight);
}

/** Each text of a tier stands over cells of one kind, and not all over the same: times under one, numbers under another. */
function haveOwnKinds(going: readonly ColumnProfile[], names: readonly (readonly string[])[], tier: number): boolean {
  const mostly = (column: ColumnProfile) =>
    [CellKind.figure, CellKind.text, CellKind.date].reduce((a, b) => (column.counts[b]! > column.counts[a]! ? b : a));
  const groups = [...groupedBy(going.keys(), (k) => names[k]![tier] ?? '').values()];
  const kinds = groups.map((own) => new Set(own.map((k) => mostly(going[k]!))));
  return kinds.every((own) => own.size === 1) && new Set(kinds.map((own) => [...own][0])).size > 1;
}

/** Tiers over whose texts a column of the report sums: what it sums differs in that tier alone. */
function summedTiers(input: DetectorInput, depth: number): Set<number> {
  const found = new Set<number>();
  for (const { of } of input.sums) {
    const parts = of.map((name) => name.split(TIER_JOIN));
    if (parts.some((one) => one.length !== depth)) continue;
    for (let t = 0; t < depth; t++) if (new Set(parts.map((one) => one[t])).size > 1) found.add(t);
  }
  return found;
}

/** Of the figures under each text of a tier. */
function profilesOf(
  going: readonly ColumnProfile[],
  names: readonly (readonly string[])[],
  tier: number,
  body: Body,
): Profile[] {
  const groups = groupedBy(going.keys(), (k) => names[k]![tier] ?? '');
  return [...groups.values()].map((own) =>
    profileOf(
      own.map((k) => going[k]!),
      body,
    ),
  );
}

interface Profile {
  decimals: number;
  size: number;
}

function profileOf(columns: readonly ColumnProfile[], body: Body): Profile {
  let [decimals, count, log] = [0, 0, 0];
  for (const column of columns)
    for (let r = 0; r < column.values.length && count < 2000; r++) {
      const value = column.values[r]!;
      if (Number.isNaN(value) || body.roles[r] !== 'data') continue;
      count++;
      decimals = Math.max(decimals, Math.min(3, decimalsOf(value)));
      log += Math.log10(1 + Math.abs(value));
    }
  return { decimals, size: count === 0 ? Number.NaN : log / count };
}

/** As many decimals everywhere: sizes alone tell no measures from classes. */
function sameDecimals(profiles: readonly Profile[]): boolean {
  const filled = profiles.filter((one) => !Number.isNaN(one.size));
  return filled.length >= 2 && new Set(filled.map((one) => one.decimals)).size === 1;
}

function likeProfiles(profiles: readonly Profile[]): boolean {
  const filled = profiles.filter((one) => !Number.isNaN(one.size));
  if (filled.length < 2) return true;
  const decimals = new Set(filled.map((one) => one.decimals));
  const sizes = filled.map((one) => one.size);
  return decimals.size === 1 && Math.max(...sizes) - Math.min(...sizes) < 0.8;
}

/** Dates, words behind the figures, or more keys than a cross table has: rows are records, and figures their measures. */
function isRecords(body: Body, going: readonly ColumnProfile[]): boolean {
  const front = body.keys.filter((column) => column.index < going[0]!.index);
  if (front.length < body.keys.length || front.length > 3) return true;
  return body.keys.some((column) => column.counts[CellKind.date]! > column.counts[CellKind.text]!);
}

/** How much speaks for a cross table, whose columns are classes of one measure. */
function crossWeight(input: DetectorInput, body: Body, going: readonly ColumnProfile[]): number {
  if (going.length < 2 || body.keys.length === 0) return -1;
  if (isRecords(body, going)) return -1;
  const front = body.keys.filter((column) => column.index < going[0]!.index);
  const names = going.map((column) => column.name);
  const profiles = going.map((column) => profileOf([column], body));
  const like = likeProfiles(profiles);
  const summed = input.sums.some(
    ({ of }) => of.length >= Math.max(2, going.length * 0.6) && of.every((name) => names.includes(name)),
  );
  if (summed) return 2.6;
  const corner = front.some(
    (column) => column.isUnnamed && input.profile.table.fields[column.index]!.nameOrigin !== 'beside',
  );
  let weight = -1;
  if (like && going.length >= 3) weight += 1 + Math.min(0.8, (going.length - 3) * 0.15);
  if (corner) weight += 1;
  const coded = going.some((column) => column.counts[CellKind.missing]! > 0);
  if (coded && like) weight += 0.2;
  const years = going.every((column) => isYear(Number(column.name)));
  return years ? 2 : weight;
}

const SPLITTING = [' - ', ' – ', ': ', '_', ' ', '.', '-'];

/** How every name falls into two at a sign, with values on one side. */
interface Split {
  sign: string;
  /** The side that holds values: 0 in front of the sign, 1 behind. */
  at: 0 | 1;
  pairs: readonly (readonly [string, string])[];
}

/** 'Jan plan', 'Plan - Jan': a sign at which every name falls into two, a kind of value and what is measured. */
function commonSplit(names: readonly string[]): Split | undefined {
  for (const sign of SPLITTING) {
    if (names.some((name) => name.indexOf(sign) <= 0)) continue;
    // Where a name holds the sign more than once, at the first of them or at the last.
    for (const where of ['indexOf', 'lastIndexOf'] as const) {
      const pairs = names.map((name): readonly [string, string] => {
        const place = name[where](sign);
        return [name.slice(0, place), name.slice(place + sign.length)];
      });
      for (const at of [0, 1] as const) {
        const values = [...new Set(pairs.map((pair) => pair[at]))];
        const measures = new Set(pairs.map((pair) => pair[at === 0 ? 1 : 0]));
        if (values.length < 2 || nameKinds(values).some((kind) => kind === undefined)) continue;
        if (measures.size * values.length <= names.length * 1.5) return { sign, at, pairs };
      }
    }
  }
  return undefined;
}

function bySplit(input: DetectorInput, going: readonly ColumnProfile[], { sign, at, pairs }: Split): Finding[] {
  const names = going.map((column) => column.name);
  const kinds = nameKinds([...new Set(pairs.map((pair) => pair[at]))]);
  const name = freeName(input, names, columnOfKinds(kinds));
  const measures = [...new Set(pairs.map((pair) => pair[at === 0 ? 1 : 0]))];
  const greedy = names.some((one) => one.indexOf(sign) !== one.lastIndexOf(sign));
  const escaped = escapeRegExp(sign);
  const firstAt = names.every((one, k) => one.indexOf(sign) === pairs[k]![0].length);
  const parts = at === 0 ? [{ as: 'column', name }, { as: 'each' }] : [{ as: 'each' }, { as: 'column', name }];
  return [
    {
      steps: [
        {
          kind: 'unpivot',
          params: {
            columns: setOfTiers(input, names),
            split: greedy ? null : sign,
            template: null,
            pattern: greedy ? (firstAt ? `^(.+?)${escaped}(.+)$` : `^(.+)${escaped}(.+?)$`) : null,
            parts,
            value: freeName(input, names, 'Value'),
            blanks: going.some((column) => column.counts[CellKind.blank]! > 0) ? 'drop' : 'keep',
          },
          why: `column names combine ${name.toLowerCase()} and measure (${shownNames(measures)})`,
        },
      ],
      weight: 2.2,
      gives: `${name.toLowerCase()} down, one column for each of ${shownNames(measures)}`,
    },
  ];
}

function shownNames(names: readonly string[]): string {
  return names.length <= 4 ? names.join(', ') : `${names.slice(0, 3).join(', ')} … ${names.at(-1)}`;
}
