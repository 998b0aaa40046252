// What a room of the interface offers: its place among the rooms, and its pages. rooms.ts lists the rooms.

import type { RouteObject } from "react-router";

export interface PageHandle {
  /** The page's name in tabs and histories, until the page itself knows better. */
  title: string;
}
export interface Room {
  /** Absent: its pages are reached from others. */
  nav?: { to: string; name: string };
  routes: (RouteObject & { handle: PageHandle })[];
}
