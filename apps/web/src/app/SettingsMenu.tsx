// Face, temperature unit, sound and this device's name, one menu.

import { recordApi } from "../record/api.ts";
import { Settings2 } from "lucide-react";
import { Popover } from "radix-ui";
import type { ReactNode } from "react";
import { useState } from "react";
import { useDispatch } from "react-redux";
import { plainDeviceName, useDevice } from "../record/device.ts";
import type { Settings } from "../shared/settings/settings.ts";
import { deviceNamed, faceChosen, temperatureChosen, volumeChosen } from "../shared/settings/settings.ts";
import { useSettings } from "../shared/settings/settings.ts";

export function SettingsMenu() {
  const settings = useSettings();
  const dispatch = useDispatch();
  return (
    <Popover.Root>
      <Popover.Trigger className="flex items-center gap-2 rounded p-2 text-sm text-soft hover:text-ink">
        <Settings2 size={18} aria-hidden="true" /> <span className="sr-only sm:not-sr-only">Display</span>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="start" sideOffset={6} aria-label="Display" className="z-20 w-72 space-y-4 border border-rule2 bg-sheet p-4">
          <Choice
            legend="Face"
            name="face"
            value={settings.face}
            options={[
              ["day", "Day"],
              ["night", "Night"],
              ["auto", "As the device"],
            ]}
            onChange={(v) => dispatch(faceChosen(v))}
          />
          <Choice
            legend="Temperature"
            name="temperature"
            value={settings.temperature}
            options={[
              ["C", "°C"],
              ["F", "°F"],
            ]}
            onChange={(v) => dispatch(temperatureChosen(v))}
          />
          <label className="block text-sm font-semibold">
            Reminder tone, volume
            <input
              className="mt-1 block w-full p-0"
              type="range"
              min="0"
              max="1"
              step="0.1"
              value={settings.volume}
              aria-valuetext={settings.volume === 0 ? "muted" : `${Math.round(settings.volume * 100)} %`}
              onChange={(e) => dispatch(volumeChosen(Number(e.target.value)))}
            />
          </label>
          <DeviceName />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** Kept here, and told to the server so that histories can name this device. */
function DeviceName() {
  const { deviceName } = useSettings();
  const { outbox } = useDevice();
  const dispatch = useDispatch();
  const [tell] = recordApi.useNameDeviceMutation();
  const [name, setName] = useState(deviceName || plainDeviceName(outbox.deviceId));
  const keep = (): void => {
    const wanted = name.trim();
    if (wanted === "" || wanted === deviceName) return;
    dispatch(deviceNamed(wanted));
    void tell({ id: outbox.deviceId, name: wanted });
  };
  return (
    <label className="block text-sm font-semibold">
      This device is called
      <input className="mt-1 block w-full" value={name} maxLength={60} onChange={(e) => setName(e.target.value)} onBlur={keep} />
    </label>
  );
}

function Choice<V extends Settings["face"] | Settings["temperature"]>(props: {
  legend: ReactNode;
  name: string;
  value: V;
  options: readonly (readonly [V, string])[];
  onChange: (value: V) => void;
}) {
  return (
    <fieldset>
      <legend className="text-sm font-semibold">{props.legend}</legend>
      <div className="mt-1 flex flex-wrap gap-4">
        {props.options.map(([value, words]) => (
          <label key={value} className="flex items-center gap-2">
            <input type="radio" name={props.name} checked={props.value === value} onChange={() => props.onChange(value)} />
            {words}
          </label>
        ))}
      </div>
    </fieldset>
  );
}
