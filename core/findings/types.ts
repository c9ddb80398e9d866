import { Seen, type Sight } from '../glance/sight.ts';
import { setTypes } from '../steps/cells/set-types.ts';
import { usedTexts } from '../values/cell-text.ts';
import type { Detector } from './finding.ts';

interface TypeSet {
  columns: { by: 'names'; names: string[] };
  type: string;
  number?: { decimal: string; grouping: string };
  patterns?: string[];
}

/** What columns hold, where every cell of them reads so: figures in the table's own form, dates, times. */
export const types: Detector = {
  name: 'types',
  find(hand) {
    const { sight } = hand;
    const sets = new Map<string, TypeSet>();
    const add = (name: string, set: Omit<TypeSet, 'columns'>) => {
      const key = JSON.stringify(set);
      const group = sets.get(key) ?? { columns: { by: 'names' as const, names: [] }, ...set };
      group.columns.names.push(name);
      sets.set(key, group);
    };
    for (const column of sight.columns) {
      const field = sight.table.fields[column.index]!;
      if (field.column.type !== 'text' && field.column.type !== 'received') continue;
      const filled = sight.rows - column.counts[Seen.blank]!;
      if (filled === 0) continue;
      if (column.counts[Seen.figure] === filled) {
        if (filled > 3 && holdsCodes(column.texts)) continue;
        const whole = column.values.every((value) => Number.isNaN(value) || Number.isInteger(value));
        add(column.name, {
          type: whole ? 'whole' : 'number',
          ...(sight.decimal === ',' ? { number: { decimal: ',', grouping: 'any' } } : {}),
        });
      } else if (column.counts[Seen.date] === filled) {
        const guess = setTypes.start(sight.table, [column.name]).types[0]!;
        if (guess.type === 'date' || guess.type === 'datetime' || guess.type === 'time')
          add(column.name, { type: guess.type, ...(guess.patterns === undefined ? {} : { patterns: guess.patterns }) });
      }
    }
    const list = [...sets.values()];
    if (list.length === 0) return [];
    const doubt = doubtOf(sight, list);
    const said = list.map(
      (set) => `${set.columns.names.slice(0, 3).join(', ')}${set.columns.names.length > 3 ? ' …' : ''} ${set.type}`,
    );
    return [
      {
        steps: [
          {
            kind: 'set-types',
            params: { types: list },
            why: `every cell reads so: ${said.join('; ')}${sight.decimal === ',' ? ' (decimal comma)' : ''}`,
          },
        ],
        weight: 0.5,
        ...(doubt === undefined ? {} : { doubt }),
      },
    ];
  },
};

/** Numbers of one length with noughts in front among them are codes. */
function holdsCodes(texts: readonly string[]): boolean {
  return (
    texts.length > 0 &&
    texts.some((text) => /^0\d/.test(text.trim())) &&
    texts.every((text) => /^\d+$/.test(text.trim()))
  );
}

/** Dates that could begin with the day or the month, and marks that could part thousands or decimals. */
function doubtOf(sight: Sight, sets: readonly TypeSet[]): string | undefined {
  for (const { type, columns } of sets)
    for (const name of columns.names) {
      const column = sight.columns.find((one) => one.name === name)!;
      const field = sight.table.fields[column.index]!.column;
      if (field.type !== 'text' && field.type !== 'received') continue;
      const used = usedTexts(field);
      if (type === 'date' || type === 'datetime') {
        const pairs = [...used].flatMap((text) => {
          const match = /^(\d{1,2})[/-](\d{1,2})[/-]\d{2,4}/.exec(text.trim());
          return match === null ? [] : [[Number(match[1]), Number(match[2])] as const];
        });
        const open = pairs.length > 0 && pairs.every(([a, b]) => a <= 12 && b <= 12);
        if (open && pairs.some(([a, b]) => a !== b)) return `every date of ${name} could also be read month first`;
      }
      if (type === 'whole' || type === 'number') {
        const marked = [...used].filter((text) => /\d[.,]\d/.test(text));
        const open = marked.length > 0 && marked.every((text) => /^\D*\d{1,3}[.,]\d{3}\D*$/.test(text));
        if (open && !isProven(sight)) return `marks in ${name} could part thousands or decimals`;
      }
    }
  return undefined;
}

/** A figure somewhere in the table is written as only one of the two decimal marks can. */
function isProven(sight: Sight): boolean {
  return sight.columns.some(
    (column) =>
      column.counts[Seen.figure]! > 0 &&
      column.texts.some((text) => /\d[.,]\d{1,2}(?!\d)\D*$|\d[.,]\d{4,}|[.,]\d{3}[.,]\d/.test(text.trim())),
  );
}
