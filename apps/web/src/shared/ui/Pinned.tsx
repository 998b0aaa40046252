// What stays at the lower edge of the window while the page scrolls above it: the shell keeps a place, a page fills it.

import type { ReactNode } from "react";
import { createContext, use } from "react";
import { createPortal } from "react-dom";

export const PinnedPlace = createContext<HTMLElement | null>(null);

/** Without a shell around it, it stands where it is written. */
export function Pinned({ children }: { children: ReactNode }) {
  const place = use(PinnedPlace);
  return place === null ? <>{children}</> : createPortal(children, place);
}
