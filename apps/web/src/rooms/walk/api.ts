// What is measured of a walking test's clips: rows on the server, paths by their content.

import { measuredClips, PACK_TYPE, PROXY_TYPE } from "@keep-rolling/contract/walks";
import type { MeasuredClip } from "@keep-rolling/contract/walks";
import { unpackRecord } from "@keep-rolling/core/motion";
import { problemSchema } from "@keep-rolling/contract/problem";
import { z } from "zod";
import { api } from "../../shared/api/api.ts";

const stored = z.object({ sha256: z.string() });

export const walkApi = api.injectEndpoints({
  endpoints: (build) => ({
    walkClips: build.query<{ clips: MeasuredClip[] }, string>({
      query: (session) => `walks/${session}/clips`,
      responseSchema: measuredClips,
      providesTags: (_reply, _error, id) => [{ type: "Walk", id }],
    }),
    saveWalkClip: build.mutation<{ sha256: string }, { session: string; clip: MeasuredClip }>({
      query: ({ session, clip }) => ({ url: `walks/${session}/clips`, method: "PUT", body: clip }),
      responseSchema: stored,
      invalidatesTags: (_reply, _error, { session }) => [{ type: "Walk", id: session }],
    }),
  }),
});

/** Starting, its database away, or its disk full: the same may be taken later. */
export const isLater = (status: number): boolean => [502, 503, 507].includes(status);

/** What the server said, as an error: one of the network's kind when it may take the same later. */
export async function refusalOf(reply: Response): Promise<Error> {
  const problem = problemSchema.safeParse(await reply.json().catch(() => null));
  const sentence = problem.success ? problem.data.detail : `The server answered ${reply.status}.`;
  return isLater(reply.status) ? new TypeError(sentence) : new Error(sentence);
}

/** Stores bytes by their content; fails with a sentence. */
async function send(to: string, type: string, body: Blob | Uint8Array<ArrayBuffer>, signal: AbortSignal): Promise<string> {
  const reply = await fetch(to, { method: "POST", headers: { "content-type": type }, body, signal });
  if (!reply.ok) throw await refusalOf(reply);
  return stored.parse(await reply.json()).sha256;
}

/** Stores a packed path. */
export const sendPack = (pack: Uint8Array, signal: AbortSignal): Promise<string> =>
  send("/api/walks/packs", PACK_TYPE, new Uint8Array(pack), signal);

/** Stores a small copy of a clip. */
export const sendProxy = (proxy: Blob, signal: AbortSignal): Promise<string> => send("/api/walks/proxies", PROXY_TYPE, proxy, signal);

/** How long a clip is by its path; null when the server does not have it. */
export async function packSeconds(sha256: string): Promise<number | null> {
  const bytes = await readPack(sha256);
  const record = bytes === null ? null : unpackRecord(new Uint8Array(bytes));
  return record?.series.timesSec.at(-1) ?? null;
}

const packs = new Map<string, Promise<ArrayBuffer | null>>();
/** A path by its content; null when the server does not have it. A failure is asked for again. */
export function readPack(sha256: string): Promise<ArrayBuffer | null> {
  const known = packs.get(sha256);
  if (known !== undefined) return known;
  const asked = fetch(`/api/walks/packs/${sha256}`).then(async (r) => {
    if (r.ok) return r.arrayBuffer();
    // Only this says that it is nowhere.
    if (r.status === 404) return null;
    throw await refusalOf(r);
  });
  packs.set(sha256, asked);
  asked.then(
    (bytes) => bytes === null && packs.delete(sha256),
    () => packs.delete(sha256),
  );
  return asked;
}
