// How much of the processors' time the host of a virtual machine took for others: a second lost to it is no second of ours.

import { readFileSync } from "node:fs";

/** Ticks of all processors since the start of the machine, and those taken from it; null where the kernel does not say. Source: proc(5), /proc/stat. */
export function ticksOf(stat: string): { all: number; stolen: number } | null {
  const [name, ...ticks] = (stat.split("\n")[0] ?? "").split(/\s+/);
  // user nice system idle iowait irq softirq steal; what guests used is in user already.
  const [first, ...rest] = ticks.slice(0, 8).map(Number);
  if (name !== "cpu" || first === undefined || rest.length < 7 || rest.some(Number.isNaN)) return null;
  return { all: rest.reduce((sum, t) => sum + t, first), stolen: rest[6] as number };
}

/** Call the answer when what is measured is over: the share taken meanwhile, 0 to 1; null where it is not known. */
export function stolenMeanwhile(): () => number | null {
  const read = (): ReturnType<typeof ticksOf> => {
    try {
      return ticksOf(readFileSync("/proc/stat", "utf8"));
    } catch {
      return null;
    }
  };
  const before = read();
  return () => {
    const after = read();
    return before === null || after === null || after.all === before.all ? null : (after.stolen - before.stolen) / (after.all - before.all);
  };
}
