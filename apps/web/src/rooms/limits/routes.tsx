import type { Room } from "../../app/room.ts";

export const limits: Room = {
  nav: { to: "/limits", name: "Limits" },
  routes: [
    { path: "limits", handle: { title: "Limits" }, lazy: async () => ({ Component: (await import("./LimitsPage.tsx")).LimitsPage }) },
    {
      path: "limits/:limitId",
      handle: { title: "Recorded limit" },
      lazy: async () => ({ Component: (await import("./LimitPage.tsx")).LimitPage }),
    },
  ],
};
