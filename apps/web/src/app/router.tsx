// Addresses: readable, shareable, split by room so that a first view loads only what it shows.

import { createBrowserRouter } from "react-router";
import { BenchPage } from "../rooms/bench/BenchPage.tsx";
import { Loading } from "../shared/ui/parts.tsx";
import { Shell } from "./Shell.tsx";
import { Lost } from "./Lost.tsx";

export const createRouter = () =>
  createBrowserRouter([
    {
      path: "pair",
      lazy: async () => ({ Component: (await import("./PairPage.tsx")).PairPage }),
      hydrateFallbackElement: <Loading what="the code" />,
    },
    {
      element: <Shell />,
      errorElement: <Lost />,
      hydrateFallbackElement: <Loading what="the room" />,
      children: [
        { index: true, element: <BenchPage /> },
        { path: "kit", lazy: async () => ({ Component: (await import("../rooms/kit/KitPage.tsx")).KitPage }) },
        { path: "kit/:entity/:id", lazy: async () => ({ Component: (await import("../rooms/kit/EditPage.tsx")).EditPage }) },
        { path: "kit/compare", lazy: async () => ({ Component: (await import("../rooms/kit/ComparePage.tsx")).ComparePage }) },
        { path: "plan", lazy: async () => ({ Component: (await import("../rooms/plan/PlanPage.tsx")).PlanPage }) },
        { path: "plan/days/new", lazy: async () => ({ Component: (await import("../rooms/plan/DayForm.tsx")).DayFormPage }) },
        { path: "plan/days/:dayId", lazy: async () => ({ Component: (await import("../rooms/plan/DayPage.tsx")).DayPage }) },
        { path: "plan/days/:dayId/edit", lazy: async () => ({ Component: (await import("../rooms/plan/DayForm.tsx")).DayFormPage }) },
        { path: "plan/days/:dayId/sheet", lazy: async () => ({ Component: (await import("../rooms/plan/SheetPage.tsx")).SheetPage }) },
        { path: "roll", lazy: async () => ({ Component: (await import("../rooms/roll/SetupPage.tsx")).SetupPage }) },
        { path: "roll/late", lazy: async () => ({ Component: (await import("../rooms/roll/LatePage.tsx")).LatePage }) },
        { path: "roll/:runId", lazy: async () => ({ Component: (await import("../rooms/roll/ConsolePage.tsx")).ConsolePage }) },
        { path: "runs/:runId", lazy: async () => ({ Component: (await import("../rooms/runs/RunPage.tsx")).RunPage }) },
        { path: "runs/:runId/files", lazy: async () => ({ Component: (await import("../rooms/runs/FilesPage.tsx")).FilesPage }) },
        { path: "runs/:runId/sheet", lazy: async () => ({ Component: (await import("../rooms/runs/RunSheetPage.tsx")).RunSheetPage }) },
        {
          path: "runs/:runId/settings",
          lazy: async () => ({ Component: (await import("../rooms/runs/RunSheetPage.tsx")).SettingsCardPage }),
        },
        { path: "runs/:runId/history", lazy: async () => ({ Component: (await import("../rooms/runs/HistoryPage.tsx")).HistoryPage }) },
        { path: "heat", lazy: async () => ({ Component: (await import("../rooms/heat/HeatPage.tsx")).HeatPage }) },
        { path: "heat/:unitId", lazy: async () => ({ Component: (await import("../rooms/heat/HeatPage.tsx")).HeatPage }) },
        { path: "heat/:unitId/:question", lazy: async () => ({ Component: (await import("../rooms/heat/HeatPage.tsx")).HeatPage }) },
        { path: "limits", lazy: async () => ({ Component: (await import("../rooms/limits/LimitsPage.tsx")).LimitsPage }) },
        { path: "limits/:limitId", lazy: async () => ({ Component: (await import("../rooms/limits/LimitPage.tsx")).LimitPage }) },
        { path: "data", lazy: async () => ({ Component: (await import("../rooms/data/DataPage.tsx")).DataPage }) },
        { path: "*", element: <Lost /> },
      ],
    },
  ]);
