import { useMemo } from 'react';
import { NAME } from '../../../../core/index.ts';
import { cellKey } from '../../../parts/grid/grid-types.ts';
import { useViewStore } from '../../../stores/view-store.ts';

/** Cells and rows of a part of the report that are lit: by what is pointed at, and by a rule that is looked at. */
export function useLit(part: number): { cells: ReadonlySet<string>; rows: ReadonlySet<number> } {
  const litReport = useViewStore((store) => store.litReport);
  const following = useViewStore((store) => store.litRows);
  const cells = useMemo(
    () =>
      new Set(
        litReport
          .filter((cell) => !cell.elsewhere && cell.part === part && cell.row !== NAME)
          .map((cell) => cellKey(cell.row, cell.column)),
      ),
    [litReport, part],
  );
  const rows = useMemo(
    () => new Set(following.filter((one) => one.part === part).map((one) => one.row)),
    [following, part],
  );
  return { cells, rows };
}

/** The cell of a part of the report that is gone to. */
export function useJourneyTo(part: number): { row: number; column: number } | undefined {
  return useViewStore(({ journey }) => (journey?.on === 'report' && journey.part === part ? journey : undefined));
}
