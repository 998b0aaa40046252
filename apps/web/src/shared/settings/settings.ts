// What this device's user chose: face, temperature unit, sound. Kept on the device.

import type { TemperatureUnit } from "@keep-rolling/core/format";
import type { PayloadAction } from "@reduxjs/toolkit";
import { createSlice } from "@reduxjs/toolkit";
import { useSelector } from "react-redux";
import { z } from "zod";

const schema = z.object({
  face: z.enum(["day", "night", "auto"]).catch("auto"),
  temperature: z.enum(["C", "F"]).catch("C"),
  volume: z.number().min(0).max(1).catch(0.5),
  /** What this device calls itself in histories; empty: not named by anybody. */
  deviceName: z.string().max(60).catch(""),
});
export type Settings = z.infer<typeof schema>;
const KEY = "keep-rolling-settings";

function load(): Settings {
  try {
    return schema.parse(JSON.parse(localStorage.getItem(KEY) ?? "{}"));
  } catch {
    return schema.parse({});
  }
}

const slice = createSlice({
  name: "settings",
  initialState: load,
  reducers: {
    faceChosen: (state, action: PayloadAction<Settings["face"]>) => void (state.face = action.payload),
    temperatureChosen: (state, action: PayloadAction<TemperatureUnit>) => void (state.temperature = action.payload),
    volumeChosen: (state, action: PayloadAction<number>) => void (state.volume = action.payload),
    deviceNamed: (state, action: PayloadAction<string>) => void (state.deviceName = action.payload),
  },
});
export const { deviceNamed, faceChosen, temperatureChosen, volumeChosen } = slice.actions;
export const settingsReducer = slice.reducer;

/** Writes the choice to the device and the face to the page; a full or closed storage only forgets the choice. */
export function applySettings(settings: Settings): void {
  const dark = matchMedia("(prefers-color-scheme: dark)").matches;
  document.documentElement.dataset.face = settings.face === "auto" ? (dark ? "night" : "day") : settings.face;
  try {
    localStorage.setItem(KEY, JSON.stringify(settings));
  } catch {
    // Nothing depends on it.
  }
}

export const useSettings = (): Settings => useSelector((state: { settings: Settings }) => state.settings);
