// Good data made bad in one place, by a seed; and an archive packed again so that its checksums fit what was done to it.

import { createHash } from "node:crypto";
import type { Random } from "@keep-rolling/core/statistics";
import { strFromU8, strToU8, unzipSync, zipSync } from "fflate";

const ODD: readonly unknown[] = [
  null,
  "",
  0,
  -1,
  1e308,
  2 ** 53,
  "\ud83d",
  "\u0000",
  "x".repeat(5000),
  [],
  {},
  true,
  "2026",
  8_640_000_000_001,
  "../../etc/passwd",
  "<script>alert(1)</script>",
  "'; drop table mark; --",
  [[[[[[[[]]]]]]]],
];

export const pick = <T>(random: Random, list: readonly T[]): T => list[random.int(0, list.length - 1)] as T;

/** A copy with one value, at any depth, replaced by an odd one, gone, or joined by one nobody asked for. */
export function spoiled(value: unknown, random: Random): unknown {
  if (typeof value !== "object" || value === null || random.next() < 0.1) return pick(random, ODD);
  const keys = Object.keys(value);
  if (keys.length === 0) return pick(random, ODD);
  const key = pick(random, keys);
  if (Array.isArray(value)) return value.map((v: unknown, i) => (String(i) === key ? spoiled(v, random) : v));
  const copy = { ...(value as Record<string, unknown>) };
  const how = random.next();
  if (how < 0.1) delete copy[key];
  else if (how < 0.2) copy[`${key} too`] = pick(random, ODD);
  else copy[key] = spoiled(copy[key], random);
  return copy;
}

/** A byte or a stretch of bytes changed, cut off, or doubled. */
export function spoiledBytes(bytes: Uint8Array, random: Random): Uint8Array {
  const at = random.int(0, bytes.length - 1);
  const how = random.int(0, 2);
  if (how === 0) return bytes.slice(0, at);
  const copy = new Uint8Array(how === 1 ? bytes : Buffer.concat([bytes, bytes.subarray(at)]));
  for (let i = at; i < Math.min(copy.length, at + random.int(1, 40)); i++) copy[i] = random.int(0, 255);
  return copy;
}

export function spoiledArchive(archive: Uint8Array, random: Random): Uint8Array {
  const files = unzipSync(archive);
  const table = pick(
    random,
    Object.keys(files).filter((name) => name.startsWith("tables/") && (files[name]?.length ?? 0) > 0),
  );
  const lines = strFromU8(files[table] as Uint8Array)
    .trimEnd()
    .split("\n");
  const at = random.int(0, lines.length - 1);
  const line = JSON.stringify(spoiled(JSON.parse(lines[at] as string), random));
  // Over and over, so that budgets are met too.
  const times = random.next() < 0.1 ? 3000 : 1;
  files[table] = strToU8(`${lines.with(at, Array.from({ length: times }, () => line).join("\n")).join("\n")}\n`);
  return packed(files);
}

function packed(files: Record<string, Uint8Array>): Uint8Array {
  const manifest = JSON.parse(strFromU8(files["manifest.json"] as Uint8Array)) as { files: unknown[] };
  manifest.files = Object.entries(files)
    .filter(([name]) => name !== "manifest.json")
    .map(([name, content]) => ({ name, bytes: content.length, sha256: createHash("sha256").update(content).digest("hex") }));
  return zipSync({ ...files, "manifest.json": strToU8(JSON.stringify(manifest)) }, { level: 1 });
}
