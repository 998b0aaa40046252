// Test support: what jsdom lacks and the pages use.

import { vi } from "vitest";

export function standInBrowser(): void {
  vi.stubGlobal("matchMedia", (media: string) => ({
    media,
    matches: false,
    addEventListener: () => undefined,
    removeEventListener: () => undefined,
  }));
  vi.stubGlobal(
    "ResizeObserver",
    class {
      observe(): void {}
      unobserve(): void {}
      disconnect(): void {}
    },
  );
}

/** What a screen reader says of a field beside its name: its error, or its hint; null: nothing. */
export function saidOf(field: HTMLElement): string | null {
  const id = field.getAttribute("aria-describedby");
  return id === null ? null : (document.getElementById(id)?.textContent ?? null);
}
