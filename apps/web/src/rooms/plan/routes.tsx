import type { Room } from "../../app/room.ts";

export const plan: Room = {
  nav: { to: "/plan", name: "Plan" },
  routes: [
    { path: "plan", handle: { title: "Plan" }, lazy: async () => ({ Component: (await import("./PlanPage.tsx")).PlanPage }) },
    {
      path: "plan/days/new",
      handle: { title: "Plan a day" },
      lazy: async () => ({ Component: (await import("./DayForm.tsx")).DayFormPage }),
    },
    { path: "plan/days/:dayId", handle: { title: "Test day" }, lazy: async () => ({ Component: (await import("./DayPage.tsx")).DayPage }) },
    {
      path: "plan/days/:dayId/edit",
      handle: { title: "Plan a day" },
      lazy: async () => ({ Component: (await import("./DayForm.tsx")).DayFormPage }),
    },
    {
      path: "plan/days/:dayId/sheet",
      handle: { title: "Day sheet" },
      lazy: async () => ({ Component: (await import("./SheetPage.tsx")).SheetPage }),
    },
  ],
};
