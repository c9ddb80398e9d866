import { z } from 'zod';
import { isPlaceName, type Table } from '../table/table.ts';
import { cellText, textView } from '../values/cell-text.ts';
import { monthsAmong } from '../values/month-names.ts';
import { Pattern } from '../values/pattern.ts';
import { columnName } from './param-marks.ts';
import { missingColumn, needColumn, StepFailure } from './step.ts';

const Names = z.array(columnName());

/** Which columns, said so that it still holds when next month brings others. */
export const ColumnSet = z.discriminatedUnion('by', [
  z.object({ by: z.literal('all') }),
  z.object({ by: z.literal('names'), names: Names }),
  z.object({ by: z.literal('all-but'), names: Names }),
  z.object({ by: z.literal('starts'), text: z.string() }),
  z.object({ by: z.literal('ends'), text: z.string() }),
  z.object({ by: z.literal('contains'), text: z.string() }),
  z.object({ by: z.literal('matches'), pattern: z.string().describe('ECMAScript regular expression') }),
  z.object({ by: z.literal('year') }),
  z.object({ by: z.literal('month') }),
  z.object({
    by: z.literal('blank'),
    unnamed: z.boolean().optional().describe('Only those without their own name'),
  }),
  z.object({ by: z.literal('constant') }),
]);
export type ColumnSet = z.infer<typeof ColumnSet>;

export function columnSetText(set: ColumnSet): string {
  switch (set.by) {
    case 'all':
      return 'all columns';
    case 'names':
      return set.names.length === 0 ? 'no columns yet' : set.names.join(', ');
    case 'all-but':
      return set.names.length === 0 ? 'all columns' : `all but ${set.names.join(', ')}`;
    case 'starts':
      return `all whose name starts with ${set.text}`;
    case 'ends':
      return `all whose name ends with ${set.text}`;
    case 'contains':
      return `all whose name contains ${set.text}`;
    case 'matches':
      return `all whose name matches ${set.pattern}`;
    case 'year':
      return 'all whose name is a year';
    case 'month':
      return 'all whose name is a month';
    case 'blank':
      return set.unnamed === true ? 'all that are blank and have no name' : 'all that are blank';
    case 'constant':
      return 'all with one value throughout';
  }
}

/**
 * Indexes of the chosen columns, in table order, or for 'names' in the order given.
 * @throws StepFailure when a named column is gone
 */
export function chosenColumns(set: ColumnSet, table: Table): number[] {
  if (set.by === 'names') return set.names.map((name) => needColumn(table, name));
  const all = table.fields.map((_, k) => k);
  if (set.by === 'all-but') {
    const names = table.fields.map((field) => field.name);
    for (const name of set.names) if (!names.includes(name)) throw missingColumn(name, names);
    return all.filter((k) => !set.names.includes(names[k]!));
  }
  if (set.by === 'month') {
    const months = monthsAmong(table.fields.map((field) => field.name));
    return all.filter((k) => months[k]);
  }
  const test = nameTest(set);
  if (test !== undefined) return all.filter((k) => test(table.fields[k]!.name));
  if (set.by === 'all') return all;
  if (set.by === 'constant') return all.filter((k) => isConstant(table, k));
  const isUnnamed = set.by === 'blank' && set.unnamed === true;
  return all.filter((k) => isAllBlank(table, k) && (!isUnnamed || isPlaceName(table.fields[k]!.name)));
}

function nameTest(set: ColumnSet): ((name: string) => boolean) | undefined {
  switch (set.by) {
    case 'starts':
      return (name) => name.toLowerCase().startsWith(set.text.toLowerCase());
    case 'ends':
      return (name) => name.toLowerCase().endsWith(set.text.toLowerCase());
    case 'contains':
      return (name) => name.toLowerCase().includes(set.text.toLowerCase());
    case 'matches': {
      const pattern = compilePattern(set.pattern);
      return (name) => pattern.test(name);
    }
    case 'year':
      return (name) => /^(?:1[89]|2[01])\d\d$/.test(name.trim());
    default:
      return undefined;
  }
}

/** @throws StepFailure that repeats the pattern and what is wrong with it */
export function compilePattern(pattern: string, ignoreCase = false): Pattern {
  return new Pattern(pattern, ignoreCase, (message) => new StepFailure(`${message}.`));
}

function isAllBlank(table: Table, k: number): boolean {
  const { column } = table.fields[k]!;
  for (let r = 0; r < table.rows; r++) if (cellText(column, r)?.trim()) return false;
  return true;
}

function isConstant(table: Table, k: number): boolean {
  const { codes, texts } = textView(table.fields[k]!.column);
  const first = codes[0];
  if (first === undefined || first < 0) return false;
  return codes.every((code) => code === first || (code >= 0 && texts[code] === texts[first]));
}
