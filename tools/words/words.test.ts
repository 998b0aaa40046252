// The words of the interface: what they are taken from, and that none of them is jargon.

import path from "node:path";
import { describe, expect, it } from "vitest";
import { ROOMS, sentencesIn, sentencesOf } from "./sentences.ts";

const ROOT = path.resolve(import.meta.dirname, "../..");

/** One word for one thing, and none of the workshop's own (the list of the interface's rules). */
const JARGON =
  /\b(cells?|ladder|rungs?|bounds?|schools?|ledger|censored|posterior|thermal|statements?|strikes?|struck|take (it |the [a-z]+ |this [a-z]+ )?back|taken back)\b/i;

/** Words of the record or of an address, never shown as they are. */
const OF_THE_RECORD: readonly RegExp[] = [/^thermal shutdown$/, /^struck out$/, /^taken back$/, /^this cell$/, /table-cell/, /^\S*\/\S*$/];

describe("the words of a source file", () => {
  it("are what people read: text, labels, sentences and templates; not classes, types, imports or errors for developers", () => {
    const source = `import { a } from "./some file.ts";
      type T = "not said" | "really not";
      export const F = ({ n }: { n: number }) => {
        if (n < 0) throw new RangeError("n must be above zero");
        return <p className="text-sm text-soft" title="How long">It lasted {n === 1 ? "one minute" : \`\${n} minutes\`}.</p>;
      };`;
    expect(sentencesIn("F.tsx", source).map((s) => s.text)).toEqual(["How long", "It lasted", "one minute", "… minutes"]);
  });
});

describe("the words of the interface", () => {
  it.each(Object.keys(ROOMS))("%s: none is jargon", (room) => {
    const sentences = sentencesOf(ROOT, ROOMS[room] ?? []);
    expect(sentences.length).toBeGreaterThan(10);
    const wrong = sentences.filter(({ text }) => JARGON.test(text) && !OF_THE_RECORD.some((r) => r.test(text)));
    expect(wrong.map(({ file, line, text }) => `${file}:${line} ${text}`)).toEqual([]);
  });
  it("never ends in two full stops, and has no doubled word", () => {
    const all = Object.values(ROOMS).flatMap((places) => sentencesOf(ROOT, places));
    const odd = all.filter(({ text }) => /[a-z]\.\.(?!\.)/.test(text) || /\b(the|a|of|to|is|in) \1\b/i.test(text));
    expect(odd.map(({ file, line, text }) => `${file}:${line} ${text}`)).toEqual([]);
  });
});
