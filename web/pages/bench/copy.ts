import { engineClient } from '../../engine/client.ts';
import type { GridRange } from '../../parts/grid/grid-types.ts';

/** Puts cells on the clipboard as tab-separated text, which spreadsheets and mails take as a table. */
export async function copyRange(tableId: string, step: number, range: GridRange, names: boolean): Promise<void> {
  await navigator.clipboard.writeText(await engineClient().engine.tables.copyText(tableId, step, range, names));
}

/** Puts a whole table on the clipboard: as text, and as a page for programs that take tables as such. */
export async function copyTable(text: string, page: string | undefined): Promise<void> {
  if (page === undefined) return navigator.clipboard.writeText(text);
  const as = (type: string, content: string) => ({ [type]: new Blob([content], { type }) });
  await navigator.clipboard.write([new ClipboardItem({ ...as('text/plain', text), ...as('text/html', page) })]);
}
