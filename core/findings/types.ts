import { Seen } from '../glance/sight.ts';
import { setTypes } from '../steps/cells/set-types.ts';
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
