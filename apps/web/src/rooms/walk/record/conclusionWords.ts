// What was recorded of a walk in words, and as files: CSV for a table, JSON for a program, Markdown for a page.

import { listWords } from "@keep-rolling/core/format";
import type { PriceList, WalkConclusion, WalkPlan } from "@keep-rolling/core/walks";
import { PRICES } from "@keep-rolling/core/walks";
import Papa from "papaparse";
import { nameOf, moveOf, verdictWords } from "../../../shared/walks/verdict.ts";
import { PRICE_WORDS, priceWords } from "./priceWords.ts";

/** What it stands on. */
export function evidenceWords({ c, leftOut }: Pick<RecordedRow, "c" | "leftOut">, plan: WalkPlan, body: string): string[] {
  const takes = c.takeIds.length;
  const names = (ids: readonly string[]): string => listWords(ids.map((id) => nameOf(plan, id)));
  return [
    c.said,
    `${takes} ${takes === 1 ? "take" : "takes"} of this move, all setups${leftOut === 0 ? "" : `, ${leftOut} more left out`}${c.judgements === 0 ? "; nobody judged blind" : `; ${c.judgements} ${c.judgements === 1 ? "pair" : "pairs"} judged blind`}.`,
    ...(c.notToldApart.length === 0 ? [] : [`Could not be told apart from it: ${names(c.notToldApart)}.`]),
    ...(c.steadierThen.length === 0 ? [] : [`Told apart as steadier, and not taken: ${names(c.steadierThen)}.`]),
    [body, c.firmware === "" ? "" : `firmware ${c.firmware}`, c.lensName, plan.walker === "" ? "" : `walked by ${plan.walker}`]
      .filter((w) => w !== "")
      .join(" · "),
    ...(c.why === "" ? [] : [`Because: ${c.why}`]),
  ].filter((w) => w !== "");
}

export interface RecordedRow {
  c: WalkConclusion;
  /** Takes of the move that had been left out when it was recorded, and still are. */
  leftOut: number;
  retests: readonly string[];
  prices: PriceList;
}

const pricesIn = ({ c, prices }: RecordedRow) =>
  PRICES.flatMap((price) => {
    const cell = c.setupId === null ? undefined : prices.get(price)?.get(c.setupId);
    return cell === undefined || cell.value === null
      ? []
      : [{ price, words: priceWords(price, cell), unit: PRICE_WORDS[price].unit, from: cell.from ?? "" }];
  });

export function conclusionsCsv(plan: WalkPlan, rows: readonly RecordedRow[]): string {
  const head = [
    "move",
    "use",
    "verdict",
    "setup",
    "shake_frac",
    "low90_frac",
    "high90_frac",
    "takes",
    "left_out",
    "judged_pairs",
    "not_told_apart",
    "steadier_not_taken",
    "body_firmware",
    "lens",
    "why",
    "recorded_utc",
    "retest",
    ...PRICES.map((p) => p.replaceAll(" ", "_")),
  ];
  const lines = rows.map(({ c, leftOut, retests, prices }) => [
    moveOf(plan, c),
    c.use,
    c.verdict,
    c.setupId === null ? "" : nameOf(plan, c.setupId),
    c.shake?.point ?? "",
    c.shake?.low90 ?? "",
    c.shake?.high90 ?? "",
    c.takeIds.length,
    leftOut,
    c.judgements,
    c.notToldApart.map((id) => nameOf(plan, id)).join("; "),
    c.steadierThen.map((id) => nameOf(plan, id)).join("; "),
    c.firmware,
    c.lensName,
    c.why,
    new Date(c.atMs).toISOString(),
    retests.join(" "),
    ...PRICES.map((p) => (c.setupId === null ? "" : (prices.get(p)?.get(c.setupId)?.value ?? ""))),
  ]);
  return Papa.unparse([head, ...lines], { escapeFormulae: true, newline: "\r\n" });
}

/** Everything that was recorded, names beside ids; shares of the width are fractions. */
export const conclusionsJson = (plan: WalkPlan, rows: readonly RecordedRow[]): string =>
  JSON.stringify(
    rows.map((row) => ({
      ...row.c,
      move: moveOf(plan, row.c),
      leftOut: row.leftOut,
      setup: row.c.setupId === null ? null : nameOf(plan, row.c.setupId),
      retest: row.retests,
      prices: Object.fromEntries(
        PRICES.flatMap((p) => {
          const cell = row.c.setupId === null ? undefined : row.prices.get(p)?.get(row.c.setupId);
          return cell === undefined || cell.value === null ? [] : [[p, { value: cell.value, from: cell.from }]];
        }),
      ),
    })),
    null,
    1,
  );

export function conclusionsMarkdown(title: string, plan: WalkPlan, rows: readonly RecordedRow[], body: string): string {
  const parts = rows.flatMap((row) => [
    `## ${escaped(verdictWords(row.c, plan))}`,
    "",
    ...row.retests.map((r) => `**${escaped(r)}**\n`),
    ...evidenceWords(row, plan, body).map((w) => `- ${escaped(w)}`),
    "",
    ...(pricesIn(row).length === 0
      ? []
      : [
          "| price | | |",
          "|---|---:|---|",
          ...pricesIn(row).map((p) => `| ${escaped(PRICE_WORDS[p.price].name)} | ${p.words} ${escaped(p.unit)} | ${p.from} |`),
          "",
        ]),
  ]);
  return [`# ${escaped(title)}`, "", ...parts].join("\n");
}
/** Names are the tester's: nothing of them is markup. */
const escaped = (text: string): string => text.replace(/[\\`*_{}[\]<>#|]/g, "\\$&").replace(/\s*\n\s*/g, " ");
