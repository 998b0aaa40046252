import type { Room } from "../../app/room.ts";
import { BenchPage } from "./BenchPage.tsx";

/** The first view: it comes with the shell. */
export const bench: Room = {
  nav: { to: "/", name: "Bench" },
  routes: [{ index: true, element: <BenchPage />, handle: { title: "Bench" } }],
};
