import { CellKind, type ColumnProfile, isFilled, type TableProfile, textAt } from '../glance/table-profile.ts';
import { isPositioned } from '../table/table.ts';
import { counted, few } from '../values/counted.ts';
import type { Detector, DetectorInput, Proposal } from './finding.ts';
import { headerSteps, TIER_JOIN } from './header-steps.ts';

/** Columns of a calendar at least, as of a week without its days off. */
const MIN_DAYS = 5;
/** Blocks that show one. */
const MIN_BLOCKS = 3;
/** Rows at the top in which its names stand. */
const MAX_TOP = 20;

/** Under names such as those of weekdays, blocks of rows: first the numbers or dates of the days, then what is counted. */
export const weekBlocks: Detector = {
  name: 'week-blocks',
  find(input) {
    const found = isPositioned(input.profile.table) ? calendarOf(input.profile) : undefined;
    return found === undefined ? [] : [{ steps: stepsOf(input, found), weight: 6, gives: 'a row for each day' }];
  },
};

interface Calendar {
  /** The row of the names. */
  header: number;
  days: readonly ColumnProfile[];
  /** In front of the days: what each row counts, blank beside the days themselves. */
  label: ColumnProfile;
  measures: readonly string[];
  blocks: number;
}

function calendarOf(profile: TableProfile): Calendar | undefined {
  for (let header = 0; header < Math.min(profile.rows, MAX_TOP); header++) {
    const days = profile.columns.filter((column) => column.kinds[header] === CellKind.text);
    const label = profile.columns[(days[0]?.index ?? 0) - 1];
    if (days.length < MIN_DAYS || label === undefined || profile.filled[header] !== days.length) continue;
    const found = blocksBelow(profile, header, days, label);
    if (found !== undefined) return { header, days, label, ...found };
  }
  return undefined;
}

/** Each block begins with a row that counts days without a label, and has the same labels below it. */
function blocksBelow(
  profile: TableProfile,
  header: number,
  days: readonly ColumnProfile[],
  label: ColumnProfile,
): { measures: readonly string[]; blocks: number } | undefined {
  const blocks: string[][] = [];
  for (let r = header + 1; r < profile.rows; r++) {
    if (!days.some((column) => NUMBERS.includes(column.kinds[r]!))) continue;
    if (!isFilled(label, r)) {
      if (!countsDays(days, r)) return undefined;
      blocks.push([]);
    } else if (blocks.length === 0) return undefined;
    else blocks.at(-1)!.push(textAt(label, r));
  }
  const [measures] = blocks;
  const areSame = blocks.every((own) => own.join('\n') === measures!.join('\n'));
  return blocks.length < MIN_BLOCKS || !areSame || measures!.length === 0 || new Set(measures).size < measures!.length
    ? undefined
    : { measures: measures!, blocks: blocks.length };
}

const NUMBERS: readonly number[] = [CellKind.figure, CellKind.date];

/** Days in a row, each one later than the one before. */
function countsDays(days: readonly ColumnProfile[], row: number): boolean {
  const filled = days.filter((column) => isFilled(column, row));
  return filled.every((column, k) => {
    if (column.kinds[row] === CellKind.date) return true;
    const value = column.values[row]!;
    return value >= 1 && value <= 31 && (k === 0 || value === filled[k - 1]!.values[row]! + 1);
  });
}

function stepsOf(input: DetectorInput, { header, days, label, measures, blocks }: Calendar): Proposal[] {
  const { profile } = input;
  const names = days.map((column) => textAt(column, header));
  const head = headerSteps(input, header, 1);
  const carried = head.flatMap(({ kind, params }) => (kind === 'carry' ? [String(params['into'])] : []));
  const within = input.within === undefined ? {} : { within: input.within };
  const dayOf = (name: string) => `${name}${TIER_JOIN}Day`;
  const [first, ...others] = names;
  return [
    ...head,
    { kind: 'set-aside', params: { pile: 'blanks', rules: [{ test: 'empty' }] }, why: 'rows between the weeks' },
    {
      kind: 'carry',
      params: {
        from: first,
        rule: { test: 'blank', columns: { by: 'names', names: [label.name] } },
        into: dayOf(first!),
        also: others.map((from) => ({ from, into: dayOf(from) })),
        ...within,
      },
      why: `${counted(blocks, 'row')} of days, each above what is counted on them`,
    },
    {
      kind: 'rename',
      params: { names: names.map((from) => ({ from, to: `${from}${TIER_JOIN}Value` })) },
      why: 'beside their days',
    },
    {
      kind: 'unpivot',
      params: {
        columns: { by: 'contains', text: TIER_JOIN },
        split: TIER_JOIN,
        template: null,
        pattern: null,
        parts: [{ as: 'column', name: 'Weekday' }, { as: 'each' }],
        value: 'Value',
        blanks: 'drop',
      },
      why: `${few(names)} are values of weekday, each with its day`,
    },
    {
      kind: 'pivot',
      params: {
        rows: {
          by: 'names',
          names: [
            ...profile.table.fields.filter((field) => field.nameOrigin === 'beside').map(({ name }) => name),
            ...carried,
            'Weekday',
            'Day',
          ],
        },
        names: [label.name],
        values: [{ column: 'Value', by: 'only' }],
      },
      why: `${few(measures)} are what is counted on each day`,
    },
  ];
}
