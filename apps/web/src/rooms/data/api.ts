// Archives, and letting a phone in.

import { importReport } from "@keep-rolling/contract/data";
import type { ImportReport } from "@keep-rolling/contract/data";
import { loginsReply, pairingCode, pairingReply } from "@keep-rolling/contract/pairing";
import { api } from "../../shared/api/api.ts";

/** A large archive takes its time. */
const ARCHIVE_MS = 600_000;
const zipBody = (file: File) => ({
  method: "POST",
  body: file,
  headers: { "content-type": file.name.toLowerCase().endsWith(".json") ? "application/json" : "application/zip" },
  timeout: ARCHIVE_MS,
});

export const dataApi = api.injectEndpoints({
  endpoints: (build) => ({
    pairing: build.query({ query: (_: void) => "pairing", responseSchema: pairingReply }),
    pairingCode: build.mutation({ query: (_: void) => ({ url: "pairing", method: "POST", body: {} }), responseSchema: pairingCode }),
    logins: build.query({ query: (_: void) => "logins", responseSchema: loginsReply, providesTags: ["Logins"] }),
    endLogin: build.mutation<unknown, string>({
      query: (which) => ({ url: which === "others" ? "logins/end-others" : `logins/${which}/end`, method: "POST", body: {} }),
      invalidatesTags: ["Logins", "Kit"],
    }),
    previewArchive: build.mutation<ImportReport, File>({
      query: (file) => ({ url: "archive/preview", ...zipBody(file) }),
      responseSchema: importReport,
    }),
    importArchive: build.mutation<ImportReport, { file: File; sha256: string; conflicts: "refuse" | "set aside" }>({
      query: ({ file, ...params }) => ({ url: "archive/import", params, ...zipBody(file) }),
      responseSchema: importReport,
      invalidatesTags: ["Kit", "RunList", "Run", "Limits", "Devices", "SetAside"],
    }),
  }),
});
