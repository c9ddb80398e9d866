/** What an export writes in another way than the table shows it. */

import type { ExportSpec } from '../formats/export-spec.ts';
import type { Table } from '../table/table.ts';
import { uniqueName } from '../table/table.ts';
import { few } from '../values/counted.ts';
import { guardedText } from './write-delimited.ts';

/** Names that stay apart where a format ignores their case: Port, PORT becomes Port, PORT 2. */
export function namesApart(names: readonly string[]): string[] {
  const taken = new Set<string>();
  return names.map((name) => name + uniqueName(name.toLowerCase(), taken).slice(name.toLowerCase().length));
}

/** A sentence without a full stop for each change; empty where the file holds the table as it is. */
export function exportChanges(table: Table, spec: ExportSpec): string[] {
  const guarded = guardedText(table, spec);
  return [
    ...(guarded === undefined ? [] : [`${guarded}; the export's settings can turn that off`]),
    ...renamed(table, spec),
  ];
}

function renamed(table: Table, spec: ExportSpec): string[] {
  if (spec.as !== 'sqlite') return [];
  const names = table.fields.map((field) => field.name);
  const pairs = namesApart(names).flatMap((own, k) => (own === names[k] ? [] : [`${names[k]} is ${own}`]));
  return pairs.length === 0 ? [] : [`SQLite ignores the case of column names, so in the file ${few(pairs)}`];
}
