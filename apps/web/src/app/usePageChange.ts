// A change of page is told to everybody: the tab by its title, a screen reader and the keyboard by the focus.

import { useEffect, useRef } from "react";
import { useLocation, useMatches } from "react-router";
import type { PageHandle } from "./room.ts";

const APP = "Keep Rolling";

export function usePageChange(): void {
  const { pathname } = useLocation();
  const title = (useMatches().at(-1)?.handle as PageHandle | undefined)?.title;
  const before = useRef(pathname);
  useEffect(() => {
    const main = document.getElementById("main");
    const name = (): void => {
      const heading = main?.querySelector("h1")?.textContent?.trim();
      const text = `${heading === undefined || heading === "" ? (title ?? APP) : heading} · ${APP}`;
      if (document.title !== text) document.title = text;
    };
    name();
    if (main === null) return;
    // The heading comes with the data; a page names itself when it is there.
    const watch = new MutationObserver(name);
    watch.observe(main, { childList: true, subtree: true, characterData: true });
    return () => watch.disconnect();
  }, [pathname, title]);
  useEffect(() => {
    if (before.current === pathname) return;
    before.current = pathname;
    // A page that has already put the focus into a field of its own keeps it.
    const main = document.getElementById("main");
    if (main !== null && !main.contains(document.activeElement)) main.focus({ preventScroll: true });
  }, [pathname]);
}
