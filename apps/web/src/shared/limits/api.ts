// Recorded limits.

import { v7 as uuidv7 } from "uuid";
import { limitSchema, limitsReply } from "@keep-rolling/contract/limits";
import type { Limit } from "@keep-rolling/contract/limits";
import type { Endpoint } from "@keep-rolling/core/runs";
import { api } from "../../shared/api/api.ts";

export const limitApi = api.injectEndpoints({
  endpoints: (build) => ({
    limits: build.query<{ limits: Limit[] }, void>({ query: () => "limits", responseSchema: limitsReply, providesTags: ["Limits"] }),
    recordLimit: build.mutation<
      Limit,
      { ofRunId: string; endpoint: Endpoint; share: number; confidence: number; method: "shortest-of-n" | "dependable limit"; zone: string }
    >({
      query: (body) => ({ url: "limits", method: "POST", body: { id: uuidv7(), ...body } }),
      responseSchema: limitSchema,
      invalidatesTags: ["Limits"],
    }),
  }),
});
