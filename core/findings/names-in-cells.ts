import { CellKind, type ColumnProfile, distinctTexts } from '../glance/table-profile.ts';
import { uniqueName } from '../table/table.ts';
import { escapeRegExp } from '../values/text.ts';
import type { Detector, Proposal } from './finding.ts';

/** A name in front of its value: 'quality=ok', 'Depth: 4.2', 'Meter 4014'. */
const NAMED = /^\s*(?<name>\p{L}[\p{L} _-]{0,24}?)(?<sign>\s*[=:]\s*|\s+(?=\d))\S/u;

/** Different cells that must say the name, and that are looked at. */
const MIN_TEXTS = 3;
const MAX_TEXTS = 500;

/** The name of a column that each of its cells repeats: it becomes the name, and the cells keep their values. */
export const namesInCells: Detector = {
  name: 'names-in-cells',
  find({ profile }) {
    const taken = new Set(profile.table.fields.map(({ name }) => name));
    const steps = profile.columns.flatMap((column): Proposal[] => {
      const found = nameOf(column);
      if (found === undefined) return [];
      const why = `every cell begins with '${found.name}'`;
      const find = `^\\s*${escapeRegExp(found.name)}${found.sign === '' ? '\\s+' : `\\s*${found.sign}\\s*`}`;
      return [
        {
          kind: 'replace',
          params: { columns: { by: 'names', names: [column.name] }, find, with: '', how: 'pattern', exact: true },
          why,
        },
        { kind: 'rename', params: { names: [{ from: column.name, to: uniqueName(found.name, taken) }] }, why },
      ];
    });
    return steps.length === 0 ? [] : [{ steps, weight: 1 }];
  },
};

/** The one name that all cells of a column without a name say. */
function nameOf(column: ColumnProfile): { name: string; sign: string } | undefined {
  if (!column.isUnnamed || column.counts[CellKind.text]! < MIN_TEXTS || column.counts[CellKind.figure]! > 0)
    return undefined;
  const texts = distinctTexts(column, MAX_TEXTS);
  const [first, ...others] = texts.map((text) => NAMED.exec(text)?.groups);
  if (first === undefined || others.length === 0) return undefined;
  const { name, sign } = { name: first['name']!, sign: first['sign']!.trim() };
  const areSame = others.every((own) => own?.['name'] === name && own['sign']!.trim() === sign);
  return areSame ? { name, sign } : undefined;
}
