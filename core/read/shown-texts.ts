import { Dictionary } from '../table/builder.ts';
import type { Column } from '../table/column.ts';
import { cellText } from '../values/cell-text.ts';
import type { DisplayedColumn } from './report.ts';

/** Collects what the cells of a column show, where that is another text than what is stored. */
export class ShownTexts {
  private readonly dictionary = new Dictionary();
  private codes: Int32Array | undefined;

  constructor(private readonly rows: number) {}

  put(row: number, shown: string, stored: Column): void {
    if (shown === cellText(stored, row)) return;
    this.codes ??= new Int32Array(this.rows).fill(-1);
    this.codes[row] = this.dictionary.code(shown);
  }

  finish(): DisplayedColumn | undefined {
    const { codes } = this;
    const { texts } = this.dictionary;
    return codes === undefined ? undefined : { text: (row) => texts[codes[row] ?? -1] };
  }
}
