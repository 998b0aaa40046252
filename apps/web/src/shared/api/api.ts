// The one createApi: server data lives here and nowhere else. Every answer is checked against the contract.

import type { Problem } from "@keep-rolling/contract/problem";
import { bundleReport, historyReply, kitReply, savedReply, unitEventSchema, unitEventsReply } from "@keep-rolling/contract/kit";
import { cardReply, runReply, runsReply, strikeReply } from "@keep-rolling/contract/runs";
import { clocksReply } from "@keep-rolling/contract/clocks";
import { devicesReply, deviceTokenReply } from "@keep-rolling/contract/devices";
import { importReport, setAsideReply } from "@keep-rolling/contract/data";
import { limitSchema, limitsReply } from "@keep-rolling/contract/limits";
import { pairingCode, pairingReply } from "@keep-rolling/contract/pairing";
import { problemSchema } from "@keep-rolling/contract/problem";
import type { BundleReport, KitBundle, KitEntity } from "@keep-rolling/contract/kit";
import type { Clock } from "@keep-rolling/contract/clocks";
import type { ImportReport } from "@keep-rolling/contract/data";
import type { Limit } from "@keep-rolling/contract/limits";
import type { RunReply, RunsReply } from "@keep-rolling/contract/runs";
import type { UNIT_EVENT_KINDS } from "@keep-rolling/contract/kit";
import type { Endpoint } from "@keep-rolling/core/runs";
import { createApi, fetchBaseQuery } from "@reduxjs/toolkit/query/react";
import { v7 as uuidv7 } from "uuid";

export interface RunsArg {
  unit?: string;
  open?: "1";
  latest?: number;
}
type UnitEventKind = (typeof UNIT_EVENT_KINDS)[number];

export interface KitSave {
  entity: KitEntity;
  doc: { id: string } & Record<string, unknown>;
  /** The revision the editor saw; 0 for a new row. */
  rev: number;
}

/** A large archive takes its time. */
const ARCHIVE_MS = 600_000;
const zipBody = (file: File) => ({
  method: "POST",
  body: file,
  headers: { "content-type": file.name.toLowerCase().endsWith(".json") ? "application/json" : "application/zip" },
  timeout: ARCHIVE_MS,
});

export const api = createApi({
  reducerPath: "api",
  baseQuery: fetchBaseQuery({ baseUrl: "/api", timeout: 15_000 }),
  tagTypes: ["Kit", "Runs", "Limits", "Devices", "SetAside"],
  endpoints: (build) => ({
    clocks: build.query<{ clocks: Clock[]; serverMs: number }, void>({ query: () => "clocks", responseSchema: clocksReply }),
    setRate: build.mutation<{ clocks: Clock[]; serverMs: number }, { id: string; rate: number; skipSec?: number }>({
      query: ({ id, ...body }) => ({ url: `clocks/${id}/rate`, method: "POST", body }),
      responseSchema: clocksReply,
    }),
    kit: build.query({ query: (_: void) => "kit", responseSchema: kitReply, providesTags: ["Kit"] }),
    kitHistory: build.query({
      query: ({ entity, id }: { entity: KitEntity; id: string }) => `kit/${entity}/${id}/history`,
      responseSchema: historyReply,
      providesTags: ["Kit"],
    }),
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
    takeKitFile: build.mutation<BundleReport, { bundle: KitBundle; store: boolean }>({
      query: ({ bundle, store }) => ({ url: store ? "kit-file" : "kit-file/preview", method: "POST", body: bundle }),
      responseSchema: bundleReport,
      invalidatesTags: (_r, _e, { store }) => (store ? ["Kit", "Limits"] : []),
    }),
    unitEvents: build.query({ query: (_: void) => "unit-events", responseSchema: unitEventsReply, providesTags: ["Kit"] }),
    noteUnitEvent: build.mutation({
      query: ({ unitId, ...body }: { unitId: string; kind: UnitEventKind; atMs: number; toMs: number | null; text: string }) => ({
        url: `units/${unitId}/events`,
        method: "POST",
        body: { id: uuidv7(), ...body },
      }),
      responseSchema: unitEventSchema,
      invalidatesTags: ["Kit"],
    }),
    endUnitEvent: build.mutation({
      query: ({ eventId, ...body }: { eventId: string; event: "taken back" | "ended"; atMs: number }) => ({
        url: `unit-events/${eventId}/after`,
        method: "POST",
        body: { id: uuidv7(), ...body },
      }),
      responseSchema: unitEventSchema,
      invalidatesTags: ["Kit"],
    }),
    runs: build.query<RunsReply, RunsArg>({
      query: (params) => ({ url: "runs", params }),
      responseSchema: runsReply,
      providesTags: ["Runs"],
    }),
    run: build.query<RunReply, string>({ query: (id) => `runs/${id}`, responseSchema: runReply, providesTags: ["Runs"] }),
    card: build.query({ query: (runId: string) => `runs/${runId}/card`, responseSchema: cardReply, keepUnusedDataFor: 0 }),
    strike: build.mutation({
      query: ({ runId, reason }: { runId: string; reason: string }) => ({
        url: `runs/${runId}/strikes`,
        method: "POST",
        body: { id: uuidv7(), reason },
      }),
      responseSchema: strikeReply,
      invalidatesTags: ["Runs", "Limits"],
    }),
    unstrike: build.mutation({
      query: (runId: string) => ({ url: `runs/${runId}/unstrike`, method: "POST", body: { id: uuidv7() } }),
      responseSchema: strikeReply,
      invalidatesTags: ["Runs", "Limits"],
    }),
    limits: build.query<{ limits: Limit[] }, void>({ query: () => "limits", responseSchema: limitsReply, providesTags: ["Limits"] }),
    recordLimit: build.mutation<
      Limit,
      { ofRunId: string; endpoint: Endpoint; share: number; confidence: number; method?: "shortest-of-n" | "ladder"; assumedSd?: number }
    >({
      query: (body) => ({ url: "limits", method: "POST", body: { id: uuidv7(), ...body } }),
      responseSchema: limitSchema,
      invalidatesTags: ["Limits"],
    }),
    setAside: build.query({ query: (_: void) => "set-aside", responseSchema: setAsideReply, providesTags: ["SetAside"] }),
    devices: build.query({ query: (_: void) => "devices", responseSchema: devicesReply, providesTags: ["Devices"] }),
    addDevice: build.mutation({
      query: (body: { id: string; unitId: string; name: string }) => ({ url: "devices", method: "POST", body }),
      responseSchema: deviceTokenReply,
      invalidatesTags: ["Devices"],
    }),
    nameDevice: build.mutation({
      query: ({ id, name }: { id: string; name: string }) => ({ url: `devices/${id}/name`, method: "PUT", body: { name } }),
      responseSchema: strikeReply,
      invalidatesTags: ["Devices"],
    }),
    revokeDevice: build.mutation({
      query: (id: string) => ({ url: `devices/${id}/revoke`, method: "POST", body: {} }),
      responseSchema: strikeReply,
      invalidatesTags: ["Devices"],
    }),
    pairing: build.query({ query: (_: void) => "pairing", responseSchema: pairingReply }),
    pairingCode: build.mutation({ query: (_: void) => ({ url: "pairing", method: "POST", body: {} }), responseSchema: pairingCode }),
    pair: build.mutation<unknown, string>({
      query: (code) => ({ url: "pair", method: "POST", body: { code } }),
      invalidatesTags: ["Kit", "Runs", "Limits", "Devices"],
    }),
    previewArchive: build.mutation<ImportReport, File>({
      query: (file) => ({ url: "archive/preview", ...zipBody(file) }),
      responseSchema: importReport,
    }),
    importArchive: build.mutation<ImportReport, { file: File; sha256: string; conflicts: "refuse" | "set aside" }>({
      query: ({ file, ...params }) => ({ url: "archive/import", params, ...zipBody(file) }),
      responseSchema: importReport,
      invalidatesTags: ["Kit", "Runs", "Limits", "Devices", "SetAside"],
    }),
    openSession: build.mutation<unknown, string>({
      query: (passphrase) => ({ url: "session", method: "POST", body: { passphrase } }),
      invalidatesTags: ["Kit", "Runs", "Limits", "Devices"],
    }),
  }),
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
