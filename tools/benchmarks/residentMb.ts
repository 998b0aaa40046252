import { execFileSync } from "node:child_process";

/** The browser that this process has launched. Launched, not connected to: a far browser is sent its files, which takes the cores that are being timed. */
export function browserPid(): number {
  const rows = execFileSync("ps", ["--ppid", String(process.pid), "-o", "pid=,args="], { encoding: "utf8" })
    .trim()
    .split("\n");
  const pid = Number(
    rows
      .find((row) => row.includes("chrom"))
      ?.trim()
      .split(/\s+/)[0],
  );
  if (!Number.isInteger(pid)) throw new Error(`no browser among the children of process ${process.pid}`);
  return pid;
}

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
