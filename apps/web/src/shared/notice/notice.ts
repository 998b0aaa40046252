// One line that says what just happened, with the way back where there is one.

import type { PayloadAction } from "@reduxjs/toolkit";
import { createSlice } from "@reduxjs/toolkit";
import type { KitSave } from "../kit/api.ts";

export interface Notice {
  text: string;
  /** Saving this takes the last change back. */
  undo: KitSave | null;
}

const slice = createSlice({
  name: "notice",
  initialState: null as Notice | null,
  reducers: {
    noticed: (_state, action: PayloadAction<Notice>) => action.payload,
    noticeGone: () => null,
  },
});
export const { noticed, noticeGone } = slice.actions;
export const noticeReducer = slice.reducer;
