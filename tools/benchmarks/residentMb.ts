import { execFileSync } from "node:child_process";

/** Resident memory of the browser's processes under `pid`, MB. */
export function residentMb(pid: number): number {
  const rows = execFileSync("ps", ["-e", "-o", "pid=,ppid=,rss="], { encoding: "utf8" })
    .trim()
    .split("\n")
    .map((line) => line.trim().split(/\s+/).map(Number) as [number, number, number]);
  const family = new Set([pid]);
  for (let grew = true; grew; ) {
    grew = false;
    for (const [child, parent] of rows)
      if (family.has(parent) && !family.has(child)) {
        family.add(child);
        grew = true;
      }
  }
  return rows.reduce((sum, [child, , rss]) => sum + (family.has(child) ? rss : 0), 0) / 1024;
}
