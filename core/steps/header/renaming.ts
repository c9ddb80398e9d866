import type { Notice, StepResult } from '../../kinds/step.ts';
import { fromColumn } from '../../table/origin.ts';
import { type Table, uniqueName } from '../../table/table.ts';
import { counted, few } from '../../values/counted.ts';

/** The table with other names; a name that is taken is made unique and told. Renamed columns count as named. */
export function renameColumns(input: Table, renamed: ReadonlyMap<number, string>): StepResult {
  const taken = new Set(input.fields.filter((_, k) => !renamed.has(k)).map((field) => field.name));
  const numbered: string[] = [];
  const fields = input.fields.map((field, k) => {
    const to = renamed.get(k);
    if (to === undefined) return field;
    const name = uniqueName(to, taken);
    if (name !== to) numbered.push(name);
    return { ...field, name, nameOrigin: field.nameOrigin === 'position' ? ('named' as const) : field.nameOrigin };
  });
  return {
    table: { rows: input.rows, fields },
    origin: input.fields.map((_, k) => fromColumn(k)),
    aside: [],
    notices: tellNumbered(numbered),
  };
}

/** Notices of names that were taken and got a number. */
export function tellNumbered(numbered: readonly string[]): Notice[] {
  if (numbered.length === 0) return [];
  const text = `${counted(numbered.length, 'name')} made unique: ${few(numbered)}`;
  return [{ severity: 'warning', text, column: numbered[0] }];
}
