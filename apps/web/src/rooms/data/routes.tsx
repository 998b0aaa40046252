import type { Room } from "../../app/room.ts";

export const data: Room = {
  nav: { to: "/data", name: "Data" },
  routes: [{ path: "data", handle: { title: "Data" }, lazy: async () => ({ Component: (await import("./DataPage.tsx")).DataPage }) }],
};
