import { configureStore } from "@reduxjs/toolkit";
import { setupListeners } from "@reduxjs/toolkit/query";
import { api } from "../shared/api/api.ts";
import { noticeReducer } from "../shared/notice/notice.ts";
import { applySettings, settingsReducer } from "../shared/settings/settings.ts";

export function createStore() {
  const store = configureStore({
    reducer: { [api.reducerPath]: api.reducer, settings: settingsReducer, notice: noticeReducer },
    middleware: (get) => get({ serializableCheck: false, immutableCheck: false }).concat(api.middleware),
  });
  setupListeners(store.dispatch);
  applySettings(store.getState().settings);
  let before = store.getState().settings;
  store.subscribe(() => {
    const { settings } = store.getState();
    if (settings !== before) applySettings(settings);
    before = settings;
  });
  return store;
}

export type Store = ReturnType<typeof createStore>;
export type RootState = ReturnType<Store["getState"]>;
