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
      lazy: async () => ({ Component: (await import("./HandsPage.tsx")).HandsPage }),
    },
    {
      path: "hold/:sessionId",
      handle: { title: "Shutter-speed test" },
      lazy: async () => ({ Component: (await import("./HoldPage.tsx")).HoldPage }),
    },
    {
      path: "hold/:sessionId/card",
      handle: { title: "Shooting card" },
      lazy: async () => ({ Component: (await import("./ShootPage.tsx")).ShootPage }),
    },
  ],
};
