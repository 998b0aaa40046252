import type { Room } from "../../app/room.ts";

export const kit: Room = {
  nav: { to: "/kit", name: "Kit" },
  routes: [
    { path: "kit", handle: { title: "Kit" }, lazy: async () => ({ Component: (await import("./KitPage.tsx")).KitPage }) },
    { path: "kit/add", handle: { title: "Add a body" }, lazy: async () => ({ Component: (await import("./BodyPage.tsx")).BodyPage }) },
    {
      path: "kit/:entity/:id",
      handle: { title: "Edit kit" },
      lazy: async () => ({ Component: (await import("./EditPage.tsx")).EditPage }),
    },
    {
      path: "kit/compare",
      handle: { title: "Compare" },
      lazy: async () => ({ Component: (await import("./ComparePage.tsx")).ComparePage }),
    },
  ],
};
