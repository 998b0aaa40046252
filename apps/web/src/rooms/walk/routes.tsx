import type { Room } from "../../app/room.ts";

export const walk: Room = {
  nav: { to: "/walk", name: "Walk" },
  routes: [
    { path: "walk", handle: { title: "Walk" }, lazy: async () => ({ Component: (await import("./WalksPage.tsx")).WalksPage }) },
    {
      path: "walk/new",
      handle: { title: "New walking test" },
      lazy: async () => ({ Component: (await import("./NewWalkPage.tsx")).NewWalkPage }),
    },
    {
      path: "walk/beside",
      handle: { title: "Walks beside each other" },
      lazy: async () => ({ Component: (await import("./several/SeveralPage.tsx")).SeveralPage }),
    },
    {
      path: "walk/box",
      handle: { title: "Motion or picture?" },
      lazy: async () => ({ Component: (await import("./box/BoxPage.tsx")).BoxPage }),
    },
    {
      path: "walk/:sessionId",
      handle: { title: "Walking test" },
      lazy: async () => ({ Component: (await import("./WalkPage.tsx")).WalkPage }),
    },
    {
      path: "walk/:sessionId/plan",
      handle: { title: "Plan of a walking test" },
      lazy: async () => ({ Component: (await import("./NewWalkPage.tsx")).ChangeWalkPage }),
    },
    {
      path: "walk/:sessionId/card",
      handle: { title: "Walk card" },
      lazy: async () => ({ Component: (await import("./CardPage.tsx")).CardPage }),
    },
    {
      path: "walk/:sessionId/clips",
      handle: { title: "Clips of a walking test" },
      lazy: async () => ({ Component: (await import("./ClipsPage.tsx")).ClipsPage }),
    },
    {
      path: "walk/:sessionId/look",
      handle: { title: "Look at takes" },
      lazy: async () => ({ Component: (await import("./look/LookPage.tsx")).LookPage }),
    },
    {
      path: "walk/:sessionId/judge",
      handle: { title: "Judge blind" },
      lazy: async () => ({ Component: (await import("./judge/JudgePage.tsx")).JudgePage }),
    },
    {
      path: "walk/:sessionId/recorded",
      handle: { title: "Price and record" },
      lazy: async () => ({ Component: (await import("./record/RecordPage.tsx")).RecordPage }),
    },
    {
      path: "walk/:sessionId/takes/:takeId",
      handle: { title: "Take" },
      lazy: async () => ({ Component: (await import("./TakePage.tsx")).TakePage }),
    },
  ],
};
