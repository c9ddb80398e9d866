import { create } from 'zustand';
import { askedSlice, FRESH_ASKED } from './view/asked.ts';
import { FRESH_LIGHT, lightSlice } from './view/light.ts';
import { FRESH_PLACE, placeSlice } from './view/place.ts';
import { FRESH_SELECTION, selectionSlice } from './view/selection.ts';
import type { ViewState } from './view/view-state.ts';

/** What is looked at on the bench. Nothing of it is kept. */
export const useViewStore = create<ViewState>()((...of) => ({
  ...placeSlice(...of),
  ...selectionSlice(...of),
  ...lightSlice(...of),
  ...askedSlice(...of),
  refresh: () => of[0]({ ...FRESH_PLACE, ...FRESH_SELECTION, ...FRESH_LIGHT, ...FRESH_ASKED }),
}));
