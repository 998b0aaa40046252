// The one createApi: server data lives in its cache and nowhere else. Rooms inject what they ask; every answer is checked against the contract.

import type { Problem } from "@keep-rolling/contract/problem";
import { problemSchema } from "@keep-rolling/contract/problem";
import { createApi, fetchBaseQuery } from "@reduxjs/toolkit/query/react";
import { askAndKeep } from "./keptAnswers.ts";

export const api = createApi({
  reducerPath: "api",
  baseQuery: fetchBaseQuery({ baseUrl: "/api", timeout: 15_000, fetchFn: askAndKeep }),
  tagTypes: ["Kit", "RunList", "Run", "Limits", "Devices", "SetAside", "Logins", "Sessions", "Session", "Walk"],
  endpoints: () => ({}),
});

/** What an error of the api says to a person; never empty. */
export function sentenceOf(error: unknown): string {
  const problem = problemOf(error);
  if (problem !== null) return problem.detail;
  const status = typeof error === "object" && error !== null && "status" in error ? error.status : undefined;
  if (status === "FETCH_ERROR" || status === "TIMEOUT_ERROR")
    return "The server cannot be reached. What you typed is still here; try again when it answers.";
  return "The answer of the server could not be read. What you typed is still here.";
}

export function problemOf(error: unknown): Problem | null {
  const data = typeof error === "object" && error !== null && "data" in error ? error.data : undefined;
  const parsed = problemSchema.safeParse(data);
  return parsed.success ? parsed.data : null;
}
