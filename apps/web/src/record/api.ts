// What is on record: clocks, runs, and what is said about a run beside its marks. A list is its summaries; marks are read by run, and only
// those whose cursor moved since they were read last.

import { clocksReply } from "@keep-rolling/contract/clocks";
import type { Clock } from "@keep-rolling/contract/clocks";
import type { ListedRun, RunReply, RunRow } from "@keep-rolling/contract/runs";
import { runMarksReply, runPage, runReply, RUNS_AT_ONCE, strikeReply } from "@keep-rolling/contract/runs";
import type { FetchArgs, FetchBaseQueryError } from "@reduxjs/toolkit/query";
import { v7 as uuidv7 } from "uuid";
import type { z } from "zod";
import { api } from "../shared/api/api.ts";
import { book } from "./book.ts";

export interface RunsArg {
  unit?: string;
  open?: "1";
  latest?: number;
}

type Fetch = (args: FetchArgs) => MaybePromise<{ data?: unknown; error?: FetchBaseQueryError | undefined }>;
type MaybePromise<T> = T | PromiseLike<T>;
class Unread extends Error {
  constructor(readonly reason: FetchBaseQueryError) {
    super("not read");
  }
}

async function read<S extends z.ZodType>(fetch: Fetch, args: FetchArgs, schema: S): Promise<z.output<S>> {
  const { data, error } = await fetch(args);
  if (error !== undefined) throw new Unread(error);
  const parsed = schema.safeParse(data);
  if (!parsed.success) throw new Unread({ status: "CUSTOM_ERROR", error: "the answer is not as agreed" });
  return parsed.data;
}

async function readRows(fetch: Fetch, arg: RunsArg): Promise<RunRow[]> {
  const rows: RunRow[] = [];
  for (let cursor: string | null | undefined; cursor !== null; ) {
    const page = await read(fetch, { url: "runs", params: { ...arg, ...(cursor === undefined ? {} : { cursor }) } }, runPage);
    rows.push(...page.runs);
    cursor = page.next;
  }
  return rows;
}

/** So many questions are under way at once; more would only wait in the browser. */
const LANES = 3;

async function readMarks(fetch: Fetch, rows: readonly RunRow[]): Promise<void> {
  const stale = rows.filter((r) => book.get(r.id)?.lastSeq !== r.lastSeq).map((r) => r.id);
  const parts = Array.from({ length: Math.ceil(stale.length / RUNS_AT_ONCE) }, (_, i) =>
    stale.slice(i * RUNS_AT_ONCE, (i + 1) * RUNS_AT_ONCE),
  );
  const lane = async (): Promise<void> => {
    for (let ids = parts.shift(); ids !== undefined; ids = parts.shift()) {
      const { runs } = await read(fetch, { url: "marks", params: { runs: ids.join(",") } }, runMarksReply);
      for (const run of runs) book.read(run);
    }
  };
  await Promise.all(Array.from({ length: LANES }, lane));
}

const listed = (run: RunRow): ListedRun => {
  const leaf = book.get(run.id);
  return { run, marks: leaf?.marks ?? [], gauge: leaf?.gauge ?? [], told: leaf?.told ?? [] };
};

/** How often the stream has told of a run. */
const heard = new Map<string, number>();
export const noteHeard = (runId: string): void => void heard.set(runId, (heard.get(runId) ?? 0) + 1);

export const recordApi = api.injectEndpoints({
  endpoints: (build) => ({
    clocks: build.query<{ clocks: Clock[]; serverMs: number }, void>({ query: () => "clocks", responseSchema: clocksReply }),
    runs: build.query<{ runs: ListedRun[] }, RunsArg>({
      queryFn: async (arg, _api, _extra, fetch) => {
        try {
          const rows = await readRows(fetch, arg);
          await readMarks(fetch, rows);
          return { data: { runs: rows.map(listed) } };
        } catch (error) {
          if (error instanceof Unread) return { error: error.reason };
          throw error;
        }
      },
      // Runs that did not change keep their arrays; comparing all of them once more would cost what this saves.
      structuralSharing: false,
      providesTags: ["RunList"],
    }),
    run: build.query<RunReply, string>({
      query: (id) => `runs/${id}`,
      responseSchema: runReply,
      providesTags: (_reply, _error, id) => [{ type: "Run", id }],
      onQueryStarted: async (id, { dispatch, queryFulfilled }) => {
        const before = heard.get(id);
        const answered = await queryFulfilled.then(
          () => true,
          () => false,
        );
        // What the stream told while the answer was under way may be in neither: it is asked for again.
        if (answered && heard.get(id) !== before) dispatch(api.util.invalidateTags([{ type: "Run", id }]));
      },
    }),
    nameDevice: build.mutation({
      query: ({ id, name }: { id: string; name: string }) => ({ url: `devices/${id}/name`, method: "PUT", body: { name } }),
      responseSchema: strikeReply,
      invalidatesTags: ["Devices"],
    }),
    strike: build.mutation({
      query: ({ runId, reason }: { runId: string; reason: string }) => ({
        url: `runs/${runId}/strikes`,
        method: "POST",
        body: { id: uuidv7(), reason },
      }),
      responseSchema: strikeReply,
      invalidatesTags: (_reply, _error, { runId }) => ["RunList", { type: "Run", id: runId }, "Limits"],
    }),
    unstrike: build.mutation({
      query: (runId: string) => ({ url: `runs/${runId}/unstrike`, method: "POST", body: { id: uuidv7() } }),
      responseSchema: strikeReply,
      invalidatesTags: (_reply, _error, runId) => ["RunList", { type: "Run", id: runId }, "Limits"],
    }),
  }),
});
