// Devices, and what of theirs could not be taken in.

import { setAsideReply } from "@keep-rolling/contract/data";
import { devicesReply } from "@keep-rolling/contract/devices";
import { api } from "../../shared/api/api.ts";

export const deviceApi = api.injectEndpoints({
  endpoints: (build) => ({
    devices: build.query({ query: (_: void) => "devices", responseSchema: devicesReply, providesTags: ["Devices"] }),
    setAside: build.query({ query: (_: void) => "set-aside", responseSchema: setAsideReply, providesTags: ["SetAside"] }),
  }),
});
