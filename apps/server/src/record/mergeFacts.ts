// Facts of an archive into the record, by the same judging as facts that are pressed. What is here already locks nothing: a run that rolls
// is only held while something of it is new.

import { isDeepStrictEqual } from "node:util";
import type { ArchiveTable } from "@keep-rolling/contract/archive";
import type { Tx } from "../db/connection.ts";
import { Refusal } from "../http/refusal.ts";
import type { Tally } from "../rooms/data/index.ts";
import { grouped } from "../rooms/data/index.ts";
import type { Aggregate, Stored } from "./aggregate.ts";
import { idOf } from "./aggregate.ts";
import { shoutedId } from "./bounds.ts";
import { readFacts } from "./factStore.ts";
import { takeFacts } from "./takeFacts.ts";

/** `line`: as it stands in the archive, to be kept whole when it contradicts. Returns what has grown. */
export async function mergeFacts(
  tx: Tx,
  a: Aggregate,
  table: ArchiveTable,
  lines: readonly (Stored & { line: unknown })[],
  tally: Tally,
): Promise<{ id: string; fresh: boolean }[]> {
  const grown: { id: string; fresh: boolean }[] = [];
  for (const { fact, line } of lines.filter((l) => shoutedId(l.fact)))
    tally.conflict(table, fact.id, "ids are written in lower case", line);
  for (const [id, group] of grouped(
    lines.filter((l) => !shoutedId(l.fact)),
    (l) => idOf(a, l.fact),
  )) {
    const sorted = [...group].sort((x, y) => x.seq - y.seq);
    if (await allHere(tx, a, id, sorted)) {
      tally.same(table, sorted.length);
      continue;
    }
    const byId = new Map(sorted.map((l) => [l.fact.id, l]));
    const taken = await takeFacts(
      tx,
      a,
      id,
      sorted.map((l) => l.fact),
      (fact) => byId.get(fact.id)?.receivedAtMs ?? 0,
    );
    for (const outcome of taken.outcomes) {
      const reason = outcome.reason ?? "";
      if (outcome.outcome === "stored") tally.add(table);
      else if (outcome.outcome === "duplicate") tally.same(table);
      else if (outcome.outcome === "set aside" || outcome.renumber === true)
        tally.conflict(table, outcome.id ?? "", reason, byId.get(outcome.id ?? "")?.line);
      else
        throw new Refusal(
          422,
          "bad-archive",
          "Not an archive that can be opened",
          `A mark of ${a.name} ${id} cannot be placed: ${reason}. Nothing was changed.`,
        );
    }
    if (taken.stored.length > 0) grown.push({ id, fresh: taken.fresh });
  }
  return grown;
}

async function allHere(tx: Tx, a: Aggregate, id: string, lines: readonly Stored[]): Promise<boolean> {
  const here = new Map(((await readFacts(tx, a, [id])).get(id) ?? []).map((s) => [s.fact.id, s.fact]));
  return lines.every(({ fact }) => {
    const known = here.get(fact.id);
    return known !== undefined && isDeepStrictEqual(plain(known), plain(fact));
  });
}
const plain = (fact: object): unknown => JSON.parse(JSON.stringify(fact));
