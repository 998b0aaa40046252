// The clips on a simulated body's card.

import { cardReply } from "@keep-rolling/contract/runs";
import { api } from "../../shared/api/api.ts";

export const clipApi = api.injectEndpoints({
  endpoints: (build) => ({
    card: build.query({ query: (runId: string) => `runs/${runId}/card`, responseSchema: cardReply, keepUnusedDataFor: 0 }),
  }),
});
