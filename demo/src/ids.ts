// Fixed ids of the demo: version 7 in shape, counted within a group, the same on every machine.

const GROUPS = { kit: "a1", run: "b2", mark: "c3", device: "d4", limit: "e5", walk: "f6", hold: "07" } as const;

/** `n` from 0 to 2^40. */
export function demoId(group: keyof typeof GROUPS, n: number): string {
  return `0190de30-00${GROUPS[group]}-7000-8000-${n.toString(16).padStart(12, "0")}`;
}
