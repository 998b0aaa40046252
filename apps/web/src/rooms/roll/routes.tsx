import type { Room } from "../../app/room.ts";

export const roll: Room = {
  nav: { to: "/roll", name: "Roll" },
  routes: [
    {
      path: "roll",
      handle: { title: "Roll: start a run" },
      lazy: async () => ({ Component: (await import("./SetupPage.tsx")).SetupPage }),
    },
    {
      path: "roll/late",
      handle: { title: "Enter a run late" },
      lazy: async () => ({ Component: (await import("./LatePage.tsx")).LatePage }),
    },
    {
      path: "roll/notebook",
      handle: { title: "Enter a notebook" },
      lazy: async () => ({ Component: (await import("./sheet/SheetPage.tsx")).SheetPage }),
    },
    {
      path: "roll/:runId",
      handle: { title: "Console" },
      lazy: async () => ({ Component: (await import("./ConsolePage.tsx")).ConsolePage }),
    },
  ],
};
