// What only the kit room asks.

import { v7 as uuidv7 } from "uuid";
import { deviceTokenReply } from "@keep-rolling/contract/devices";
import { bundleReport, historyReply, unitEventSchema } from "@keep-rolling/contract/kit";
import type { BundleReport, KitBundle, KitEntity, UNIT_EVENT_KINDS } from "@keep-rolling/contract/kit";
import { strikeReply } from "@keep-rolling/contract/runs";
import { api } from "../../shared/api/api.ts";

type UnitEventKind = (typeof UNIT_EVENT_KINDS)[number];

export const kitRoomApi = api.injectEndpoints({
  endpoints: (build) => ({
    kitHistory: build.query({
      query: ({ entity, id }: { entity: KitEntity; id: string }) => `kit/${entity}/${id}/history`,
      responseSchema: historyReply,
      providesTags: ["Kit"],
    }),
    takeKitFile: build.mutation<BundleReport, { bundle: KitBundle; store: boolean }>({
      query: ({ bundle, store }) => ({ url: store ? "kit-file" : "kit-file/preview", method: "POST", body: bundle }),
      responseSchema: bundleReport,
      invalidatesTags: (_r, _e, { store }) => (store ? ["Kit", "Limits"] : []),
    }),
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
    addDevice: build.mutation({
      query: (body: { id: string; unitId: string; name: string }) => ({ url: "devices", method: "POST", body }),
      responseSchema: deviceTokenReply,
      invalidatesTags: ["Devices"],
    }),
    revokeDevice: build.mutation({
      query: (id: string) => ({ url: `devices/${id}/revoke`, method: "POST", body: {} }),
      responseSchema: strikeReply,
      invalidatesTags: ["Devices"],
    }),
  }),
});
