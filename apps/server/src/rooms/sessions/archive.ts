import type { ArchiveLine } from "@keep-rolling/contract/archive";
import type { Tx } from "../../db/connection.ts";
import { mergeFacts } from "../../record/mergeFacts.ts";
import type { AnyPart, ArchivePart } from "../data/index.ts";
import { isoOf, jsonOf, together, twinOf } from "../data/index.ts";
import { readSessionFacts, readSessions, sessionAggregate } from "./sessionStore.ts";

async function* pages(tx: Tx): AsyncGenerator<ArchiveLine<"facts">[]> {
  const sessions = (await readSessions(tx)).reverse();
  for (const { id } of sessions) yield await readSessionFacts(tx, id);
}

const factPart: ArchivePart<"facts"> = {
  table: "facts",
  pages,
  merge: async (tx, incoming, { tally }) => {
    for await (const session of together(incoming, (l) => l.fact.sessionId))
      await mergeFacts(
        tx,
        sessionAggregate,
        "facts",
        session.map((line) => ({ ...line, line })),
        tally,
      );
  },
  csv: [
    twinOf("facts", pages, [
      ["session", (l) => l.fact.sessionId],
      ["n", (l) => l.seq],
      ["at", (l) => isoOf(l.fact.atMs)],
      ["pressed", (l) => isoOf(l.fact.madeAtMs)],
      ["device", (l) => l.fact.deviceId],
      ["kind", (l) => l.fact.kind],
      ["source", (l) => l.fact.source],
      ["names", (l) => l.fact.target ?? ""],
      ["id", (l) => l.fact.id],
      ["all", (l) => jsonOf(l.fact.body)],
    ]),
  ],
};

export const sessionArchive: readonly AnyPart[] = [factPart];
