// Getting in: a code, or the passphrase.

import { api } from "../shared/api/api.ts";

export const doorApi = api.injectEndpoints({
  endpoints: (build) => ({
    pair: build.mutation<unknown, string>({
      query: (code) => ({ url: "pair", method: "POST", body: { code } }),
      invalidatesTags: ["Kit", "RunList", "Run", "Limits", "Devices"],
    }),
    openSession: build.mutation<unknown, string>({
      query: (passphrase) => ({ url: "session", method: "POST", body: { passphrase } }),
      invalidatesTags: ["Kit", "RunList", "Run", "Limits", "Devices"],
    }),
  }),
});
