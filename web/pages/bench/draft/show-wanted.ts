import type { StepView } from '../../../engine/protocol.ts';
import { useDraftStore } from '../../../stores/draft-store.ts';

/** More columns than these are not offered to be typed. */
const MAX_COLUMNS = 12;

/** Opens the rows as they should come out, under the names that the table has now. */
export function showWanted(tableId: string, view: StepView | undefined): void {
  const named = view?.columns.filter((column) => column.nameOrigin !== 'position').map((column) => column.name) ?? [];
  const names = view?.columns.length === named.length && named.length <= MAX_COLUMNS ? named : [];
  const wide = [...names, '', ...(names.length === 0 ? ['', ''] : [])];
  useDraftStore.getState().draftToRows(tableId, { names: wide, rows: [wide.map(() => '')], whole: false });
}
