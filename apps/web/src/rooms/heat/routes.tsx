import type { Room } from "../../app/room.ts";

export const heat: Room = {
  nav: { to: "/heat", name: "Heat" },
  routes: [
    { path: "heat", handle: { title: "Heat" }, lazy: async () => ({ Component: (await import("./HeatPage.tsx")).HeatPage }) },
    { path: "heat/:unitId", handle: { title: "Heat" }, lazy: async () => ({ Component: (await import("./HeatPage.tsx")).HeatPage }) },
    {
      path: "heat/:unitId/:question",
      handle: { title: "Heat" },
      lazy: async () => ({ Component: (await import("./HeatPage.tsx")).HeatPage }),
    },
  ],
};
