// Addresses: readable, shareable, split by room so that a first view loads only what it shows. A page that fails keeps the shell around it.

import { createBrowserRouter } from "react-router";
import { Loading } from "../shared/ui/parts.tsx";
import { Failed } from "./Failed.tsx";
import { Lost } from "./Lost.tsx";
import { ROOMS } from "./rooms.ts";
import { Shell } from "./Shell.tsx";

export const createRouter = () =>
  createBrowserRouter([
    {
      path: "pair",
      lazy: async () => ({ Component: (await import("./PairPage.tsx")).PairPage }),
      hydrateFallbackElement: <Loading what="the code" />,
    },
    {
      element: <Shell />,
      errorElement: <Failed />,
      hydrateFallbackElement: <Loading what="the room" />,
      children: [
        {
          errorElement: <Failed />,
          children: [...ROOMS.flatMap((room) => room.routes), { path: "*", element: <Lost />, handle: { title: "Nothing here" } }],
        },
      ],
    },
  ]);
