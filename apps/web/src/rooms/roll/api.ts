// The rate of a simulated clock.

import { clocksReply } from "@keep-rolling/contract/clocks";
import type { Clock } from "@keep-rolling/contract/clocks";
import { api } from "../../shared/api/api.ts";

export const rollApi = api.injectEndpoints({
  endpoints: (build) => ({
    setRate: build.mutation<{ clocks: Clock[]; serverMs: number }, { id: string; rate: number; skipSec?: number }>({
      query: ({ id, ...body }) => ({ url: `clocks/${id}/rate`, method: "POST", body }),
      responseSchema: clocksReply,
    }),
  }),
});
