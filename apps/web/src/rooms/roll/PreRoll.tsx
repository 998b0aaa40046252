// The short pre-roll check list: a reminder, never a lock.

import { useState } from "react";

const ITEMS = [
  "Settings fixed and written down: nothing left on automatic that may change",
  "Card empty and large enough, battery full or mains connected",
  "Power-off temperature and display time-out set as the condition says",
  "Ambient noted, body back to ambient or its warmth said",
  "Camera steady, clear of vents and covers",
];

export function PreRoll() {
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const toggle = (item: string): void =>
    setTicked((before) => new Set(before.has(item) ? [...before].filter((i) => i !== item) : [...before, item]));
  return (
    <fieldset>
      <legend className="font-head text-lg font-semibold">Before you press</legend>
      <ul className="mt-1">
        {ITEMS.map((item) => (
          <li key={item} className="hairline">
            <label className="flex items-start gap-3 py-2">
              <input type="checkbox" className="mt-1 shrink-0" checked={ticked.has(item)} onChange={() => toggle(item)} />
              {item}
            </label>
          </li>
        ))}
      </ul>
    </fieldset>
  );
}
