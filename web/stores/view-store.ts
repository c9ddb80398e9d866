import { create } from 'zustand';
import { type AskedSlice, askedSlice, FRESH_ASKED } from './view/asked.ts';
import { FRESH_LIGHT, type LightSlice, lightSlice } from './view/light.ts';
import { FRESH_PLACE, type PlaceSlice, placeSlice } from './view/place.ts';
import { FRESH_SELECTION, type SelectionSlice, selectionSlice } from './view/selection.ts';

export interface ViewState extends PlaceSlice, SelectionSlice, LightSlice, AskedSlice {
  /** The first table after its last step, nothing selected, nothing lit: how the bench begins. */
  refresh(): void;
}

/** What is looked at on the bench. Nothing of it is kept. */
export const useViewStore = create<ViewState>()((...of) => ({
  ...placeSlice(...of),
  ...selectionSlice(...of),
  ...lightSlice(...of),
  ...askedSlice(...of),
  refresh: () => of[0]({ ...FRESH_PLACE, ...FRESH_SELECTION, ...FRESH_LIGHT, ...FRESH_ASKED }),
}));
