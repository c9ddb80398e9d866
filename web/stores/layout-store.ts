import { create } from 'zustand';
import { persist } from 'zustand/middleware';

interface LayoutState {
  /** Widths that columns were given by hand, by table and name. */
  widths: Readonly<Record<string, number>>;
  /** Columns at the start that stay in sight, by table. */
  frozen: Readonly<Record<string, number>>;
  /** The two pages scroll together where their rows correspond. */
  together: boolean;
  /** A new report is drafted on its own. */
  drafting: boolean;
  /** Tables, as job/table, that are not drafted by themselves any more. */
  declined: readonly string[];
  /** @param width undefined: as wide as it would be of itself */
  widen(table: string, column: string, width: number | undefined): void;
  freeze(table: string, columns: number): void;
  draftByItself(drafting: boolean): void;
  declineDraft(table: string, declined: boolean): void;
}

const keyOf = (table: string, column: string) => `${table}/${column}`;

/** So many tables are remembered as declined, the newest of them. */
const MAX_DECLINED = 200;

/** How pages are laid out, kept in this browser. */
export const useLayoutStore = create<LayoutState>()(
  persist(
    (set, get) => ({
      widths: {},
      frozen: {},
      together: true,
      drafting: true,
      declined: [],
      widen(table, column, width) {
        const { [keyOf(table, column)]: _, ...others } = get().widths;
        set({ widths: width === undefined ? others : { ...others, [keyOf(table, column)]: width } });
      },
      freeze: (table, columns) => set({ frozen: { ...get().frozen, [table]: columns } }),
      draftByItself: (drafting) => set({ drafting }),
      declineDraft(table, declined) {
        const others = get().declined.filter((one) => one !== table);
        set({ declined: declined ? [...others, table].slice(-MAX_DECLINED) : others });
      },
    }),
    {
      name: 'bench-view',
      partialize: ({ widths, frozen, together, drafting, declined }) => ({
        widths,
        frozen,
        together,
        drafting,
        declined,
      }),
    },
  ),
);

export function widthOf({ widths }: Pick<LayoutState, 'widths'>, table: string, column: string): number | undefined {
  return widths[keyOf(table, column)];
}
