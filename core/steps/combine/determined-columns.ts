import { needColumn } from '../../kinds/step.ts';
import { groupRows } from '../../rows/keys.ts';
import type { Table } from '../../table/table.ts';
import { cellText, textView } from '../../values/cell-text.ts';

/** Whether a key decides a column: the same key always stands with the same value. */
export interface Determined {
  column: string;
  /** Keys under which the column has more than one value; none: the key decides it. */
  broken: number;
  keys: number;
  /** One such key as it reads. */
  example?: string;
}

/** For each other column whether the key decides it. @throws StepFailure when a column of the key is gone */
export function determinedBy(table: Table, key: readonly string[]): Determined[] {
  const at = key.map((name) => needColumn(table, name));
  const groups = groupRows(
    at.map((k) => table.fields[k]!.column),
    table.rows,
  );
  return table.fields.flatMap((field, k): Determined[] => {
    if (at.includes(k)) return [];
    const { codes, texts } = textView(field.column);
    const broken = new Set<number>();
    let example: string | undefined;
    groups.of.forEach((group, r) => {
      const [a, b] = [codes[r]!, codes[groups.first[group]!]!];
      if (a === b || (a >= 0 && b >= 0 && texts[a] === texts[b])) return;
      broken.add(group);
      example ??= at.map((one) => cellText(table.fields[one]!.column, r) ?? 'blank').join(' · ');
    });
    return [{ column: field.name, broken: broken.size, keys: groups.count, example }];
  });
}
