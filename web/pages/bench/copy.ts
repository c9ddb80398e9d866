import { engineClient } from '../../engine/client.ts';
import type { GridRange } from '../../parts/grid/SheetGrid.tsx';

/** Puts cells on the clipboard as tab-separated text, which spreadsheets and mails take as a table. */
export async function copyRange(tableId: string, step: number, range: GridRange, names: boolean): Promise<void> {
  await navigator.clipboard.writeText(await engineClient().engine.copyText(tableId, step, range, names));
}
