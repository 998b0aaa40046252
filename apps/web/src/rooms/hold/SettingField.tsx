import type { Setting } from "@keep-rolling/core/holds";
import { SETTINGS } from "@keep-rolling/core/holds";
import { SelectField } from "../../shared/ui/fields.tsx";

/** Off or on. */
export const SettingField = ({ label, value, set }: { label: string; value: Setting; set: (setting: Setting) => void }) => (
  <SelectField
    label={label}
    value={value}
    onChange={(e) => set(e.target.value === "off" ? "off" : "on")}
    options={SETTINGS.map((s) => [s, s] as const)}
  />
);
