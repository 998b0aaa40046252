// The kit, plans and days included, and what happened to bodies.

import { kitReply, savedReply, unitEventsReply } from "@keep-rolling/contract/kit";
import type { KitEntity } from "@keep-rolling/contract/kit";
import { api } from "../../shared/api/api.ts";

export interface KitSave {
  entity: KitEntity;
  doc: { id: string } & Record<string, unknown>;
  /** The revision the editor saw; 0 for a new row. */
  rev: number;
}

export const kitApi = api.injectEndpoints({
  endpoints: (build) => ({
    kit: build.query({ query: (_: void) => "kit", responseSchema: kitReply, providesTags: ["Kit"] }),
    saveKit: build.mutation({
      query: ({ entity, doc, rev }: KitSave) => ({
        url: `kit/${entity}/${doc.id}`,
        method: "PUT",
        body: doc,
        headers: { "if-match": `"${rev}"` },
      }),
      responseSchema: savedReply,
      invalidatesTags: ["Kit", "Limits"],
    }),
    unitEvents: build.query({ query: (_: void) => "unit-events", responseSchema: unitEventsReply, providesTags: ["Kit"] }),
  }),
});
