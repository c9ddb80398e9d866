import type { Notice, StepResult } from '../../kinds/step.ts';
import type { Table } from '../../table/table.ts';
import { changedInPlace, changedNotice } from '../result.ts';
import { mapTexts } from './map-text.ts';

/** The chosen columns with their texts mapped, and a notice of how many cells changed. */
export function mapColumns(
  input: Table,
  chosen: readonly number[],
  map: (text: string) => string | null,
  notices: readonly Notice[] = [],
): StepResult {
  const fields = [...input.fields];
  let changed = 0;
  for (const k of chosen) {
    const mapped = mapTexts(input.fields[k]!.column, map);
    fields[k] = { ...input.fields[k]!, column: mapped.column };
    changed += mapped.changed;
  }
  return changedInPlace(input, fields, [changedNotice(changed), ...notices]);
}
