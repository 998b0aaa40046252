// npm run conformance -- FILE.json [--families a,b]: checks a file of cases against the core, prints what fails and, last, the counts.

import { readFileSync } from "node:fs";
import { parseArgs } from "node:util";
import type { Case } from "./compare.ts";
import { checkCase, FAMILIES } from "./check.ts";

const { values, positionals } = parseArgs({ allowPositionals: true, options: { families: { type: "string" } } });
const [file] = positionals;
if (file === undefined) {
  console.error("Name a file of cases: npm run conformance -- FILE.json [--families a,b]");
  process.exit(2);
}
const { cases } = JSON.parse(readFileSync(file, "utf8")) as { cases: Case[] };
const wanted = values.families?.split(",").map((f) => f.trim());
const strange = (wanted ?? []).filter((f) => !cases.some((c) => c.family === f) && FAMILIES[f] === undefined);
let [passed, failed] = [0, strange.length];
for (const f of strange) console.log(`${f}: the family is not known here`);
for (const c of cases.filter((one) => wanted === undefined || wanted.includes(one.family))) {
  const wrong = checkCase(c);
  if (wrong.length === 0) passed++;
  else {
    failed++;
    console.log(`${c.id} (${c.family})`);
    for (const w of wrong.slice(0, 12)) console.log(`  ${w}`);
    if (wrong.length > 12) console.log(`  and ${wrong.length - 12} more`);
  }
}
console.log(`${passed} passed, ${failed} failed`);
process.exitCode = failed === 0 ? 0 : 1;
