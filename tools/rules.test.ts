// Every machine-enforced rule is proved by a file that breaks it.

import { spawnSync } from "node:child_process";
import path from "node:path";
import { ESLint } from "eslint";
import { describe, expect, it } from "vitest";

const ROOT = path.resolve(import.meta.dirname, "..");
const BAD = path.join(ROOT, "tools/fixtures/bad");
const bin = (name: string): string => path.join(ROOT, "node_modules/.bin", name);

describe("dependency rules", () => {
  const config = path.join(ROOT, ".dependency-cruiser.cjs");
  const found = spawnSync(bin("depcruise"), ["--config", config, "--output-type", "json", "packages", "apps"], {
    cwd: BAD,
    encoding: "utf8",
    maxBuffer: 64e6,
  });
  const { summary } = JSON.parse(found.stdout) as { summary: { violations: { rule: { name: string } }[] } };
  const broken = new Set(summary.violations.map((v) => v.rule.name));
  it.each([
    "no-cycles",
    "core-stands-alone",
    "core-areas-by-their-door",
    "contract-imports-core-only",
    "web-never-server",
    "server-never-web",
    "rooms-stand-apart",
    "server-rooms-by-their-door",
    "rooms-by-their-door",
    "sql-in-stores",
    "tests-stay-tests",
  ])("%s", (name) => expect([...broken]).toContain(name));
});

describe("lint rules of the core", () => {
  it("bans the clock and chance", async () => {
    const eslint = new ESLint({ cwd: ROOT });
    const code = "export const a = (): number[] => [Date.now(), Math.random(), new Date().getTime()];\n";
    const [result] = await eslint.lintText(code, { filePath: path.join(ROOT, "packages/core/src/format/rounding.ts") });
    expect(result?.messages.filter((m) => m.ruleId === "no-restricted-syntax")).toHaveLength(3);
  });
});

describe("types of the core", () => {
  it("know neither a browser nor Node", () => {
    // The fixture's settings extend the core's own.
    const done = spawnSync(bin("tsc"), ["-p", path.join(BAD, "tsconfig.json")], { cwd: ROOT, encoding: "utf8" });
    expect(done.stdout).toContain("Cannot find name 'window'");
    expect(done.stdout).toContain("Cannot find name 'process'");
  });
});
