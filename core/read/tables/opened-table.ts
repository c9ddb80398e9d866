import type { Notice } from '../../kinds/step.ts';
import type { Column } from '../../table/column.ts';
import { counted } from '../../values/counted.ts';

/** A table with its own names and types. */
export interface OpenedTable {
  name: string;
  rows: number;
  names: readonly string[];
  columns: readonly Column[];
  /** What could not be kept of the file. */
  notices: readonly Notice[];
}

/** Says for each column how many of its times lost digits beyond the millisecond. */
export function shortenedNotices(
  names: readonly string[],
  columns: readonly { readonly shortened: number }[],
): Notice[] {
  return columns.flatMap(({ shortened }, c) =>
    shortened === 0
      ? []
      : [
          {
            severity: 'warning' as const,
            text: `${names[c]}: ${counted(shortened, 'time')} cut to whole milliseconds`,
            column: names[c]!,
          },
        ],
  );
}
