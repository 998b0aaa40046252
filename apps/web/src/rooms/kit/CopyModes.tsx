// Modes of another model, copied: the same specification under new ids. What is here already by name is left alone.

import { kitRoomApi } from "./api.ts";
import type { Kit, KitBundle } from "@keep-rolling/contract/kit";
import { useState } from "react";
import { useDispatch } from "react-redux";
import { v7 as uuidv7 } from "uuid";
import { sentenceOf } from "../../shared/api/api.ts";
import { noticed } from "../../shared/notice/notice.ts";
import { SelectField } from "../../shared/ui/fields.tsx";
import { Button, Note } from "../../shared/ui/parts.tsx";

export function copiedModes(kit: Kit, fromId: string, toId: string): KitBundle["kit"]["modes"] {
  const here = new Set(kit.modes.filter((m) => m.modelId === toId && !m.archived).map((m) => m.name));
  return kit.modes
    .filter((m) => m.modelId === fromId && !m.archived && !here.has(m.name))
    .map(({ rev: _rev, ...mode }) => ({ ...mode, id: uuidv7(), modelId: toId }));
}

export function CopyModes({ kit, modelId }: { kit: Kit; modelId: string }) {
  const others = kit.models.filter((m) => m.id !== modelId && !m.archived);
  const [fromId, setFromId] = useState(others[0]?.id ?? "");
  const [take, { error, isLoading }] = kitRoomApi.useTakeKitFileMutation();
  const dispatch = useDispatch();
  if (others.length === 0) return null;
  const modes = copiedModes(kit, fromId, modelId);
  const copy = async (): Promise<void> => {
    const empty = { models: [], units: [], modes, figures: [], items: [], conditions: [], protocols: [] };
    const done = await take({ bundle: { format: "keep-rolling-kit", formatVersion: 1, kit: empty }, store: true });
    if (done.error === undefined)
      dispatch(noticed({ text: modes.length === 1 ? "One mode copied." : `${modes.length} modes copied.`, undo: null }));
  };
  return (
    <section aria-labelledby="copy" className="mt-8 max-w-3xl space-y-2">
      <h2 id="copy">Copy recording modes</h2>
      <div className="flex flex-wrap items-end gap-3">
        <SelectField label="From" options={others.map((m) => [m.id, m.name])} value={fromId} onChange={(e) => setFromId(e.target.value)} />
        <Button disabled={isLoading || modes.length === 0} onClick={() => void copy()}>
          {modes.length === 0 ? "Nothing to copy" : modes.length === 1 ? "Copy one mode" : `Copy ${modes.length} modes`}
        </Button>
      </div>
      <p className="text-sm text-soft">{modes.length === 0 ? "All its modes are here by name." : modes.map((m) => m.name).join(", ")}</p>
      {error !== undefined && (
        <Note tone="alert" live>
          {sentenceOf(error)}
        </Note>
      )}
    </section>
  );
}
