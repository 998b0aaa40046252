import type { Room } from "../../app/room.ts";

export const runs: Room = {
  routes: [
    { path: "runs/:runId", handle: { title: "Run" }, lazy: async () => ({ Component: (await import("./RunPage.tsx")).RunPage }) },
    {
      path: "runs/:runId/files",
      handle: { title: "Files of a run" },
      lazy: async () => ({ Component: (await import("./FilesPage.tsx")).FilesPage }),
    },
    {
      path: "runs/:runId/sheet",
      handle: { title: "Run sheet" },
      lazy: async () => ({ Component: (await import("./RunSheetPage.tsx")).RunSheetPage }),
    },
    {
      path: "runs/:runId/settings",
      handle: { title: "Settings card" },
      lazy: async () => ({ Component: (await import("./RunSheetPage.tsx")).SettingsCardPage }),
    },
    {
      path: "runs/:runId/history",
      handle: { title: "History of a run" },
      lazy: async () => ({ Component: (await import("./HistoryPage.tsx")).HistoryPage }),
    },
  ],
};
