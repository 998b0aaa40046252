// Every machine-enforced rule is proved by a file that breaks it.

import { spawnSync } from "node:child_process";
import path from "node:path";
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

describe("lint rules", () => {
  // The fixtures' settings extend those of the repository, which leaves them out.
  const found = spawnSync(bin("oxlint"), ["--config", "lint.json", "--no-ignore", "--format", "json"], { cwd: BAD, encoding: "utf8" });
  const { diagnostics } = JSON.parse(found.stdout) as { diagnostics: { filename: string; code: string }[] };
  const broken = (file: string): string[] => diagnostics.filter((d) => d.filename.endsWith(file)).map((d) => d.code);

  it("ban the clock and chance from the core", () => {
    const bans = ["clockless(no-date)", "clockless(no-date)", "eslint(no-restricted-properties)", "eslint(no-restricted-properties)"];
    expect(broken("core/src/units/clock.ts").toSorted()).toEqual(bans);
  });
  it.each([
    "react(purity)",
    "react(refs)",
    "react(set-state-in-effect)",
    "react-hooks(exhaustive-deps)",
    "react-hooks(rules-of-hooks)",
    "typescript(no-floating-promises)",
    "typescript(no-misused-promises)",
    "typescript(no-unsafe-assignment)",
  ])("%s of a careless page", (code) => expect(broken("Careless.tsx")).toContain(code));
});

describe("types of the core", () => {
  it("know neither a browser nor Node", () => {
    // The fixture's settings extend the core's own.
    const done = spawnSync(bin("tsc"), ["-p", path.join(BAD, "tsconfig.json")], { cwd: ROOT, encoding: "utf8" });
    expect(done.stdout).toContain("Cannot find name 'window'");
    expect(done.stdout).toContain("Cannot find name 'process'");
  });
});
