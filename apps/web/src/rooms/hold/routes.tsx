import type { Room } from "../../app/room.ts";

export const hold: Room = {
  nav: { to: "/hold", name: "Hold" },
  routes: [
    { path: "hold", handle: { title: "Hold" }, lazy: async () => ({ Component: (await import("./HoldsPage.tsx")).HoldsPage }) },
    {
      path: "hold/new",
      handle: { title: "New shutter-speed test" },
      lazy: async () => ({ Component: (await import("./NewHoldPage.tsx")).NewHoldPage }),
    },
    {
      path: "hold/hands",
      handle: { title: "This lens, down to this shutter" },
      lazy: async () => ({ Component: (await import("./hands/HandsPage.tsx")).HandsPage }),
    },
    {
      path: "hold/pocket",
      handle: { title: "Pocket card" },
      lazy: async () => ({ Component: (await import("./hands/PocketPage.tsx")).PocketPage }),
    },
    {
      path: "hold/:sessionId",
      handle: { title: "Shutter-speed test" },
      lazy: async () => ({ Component: (await import("./HoldPage.tsx")).HoldPage }),
    },
    {
      path: "hold/:sessionId/plan",
      handle: { title: "Plan of a shutter-speed test" },
      lazy: async () => ({ Component: (await import("./NewHoldPage.tsx")).ChangeHoldPage }),
    },
    {
      path: "hold/:sessionId/pictures",
      handle: { title: "Pictures of a shutter-speed test" },
      lazy: async () => ({ Component: (await import("./pictures/PicturesPage.tsx")).PicturesPage }),
    },
    {
      path: "hold/:sessionId/table",
      handle: { title: "Table of shots" },
      lazy: async () => ({ Component: (await import("./table/TablePage.tsx")).TablePage }),
    },
    {
      path: "hold/:sessionId/card",
      handle: { title: "Shooting card" },
      lazy: async () => ({ Component: (await import("./ShootPage.tsx")).ShootPage }),
    },
  ],
};
