// Former versions of a row; bringing one back is a save like any other.

import { kitApi } from "../../shared/kit/api.ts";
import { kitRoomApi } from "./api.ts";
import type { KitEntity } from "@keep-rolling/contract/kit";
import { useDispatch } from "react-redux";
import { formatDate } from "../../shared/dates/dates.ts";
import { noticed } from "../../shared/notice/notice.ts";
import { Button } from "../../shared/ui/parts.tsx";

interface Props {
  entity: KitEntity;
  id: string;
  /** The newest. */
  rev: number;
  onBroughtBack: (rev: number) => void;
}

export function History({ entity, id, rev, onBroughtBack }: Props) {
  const { data } = kitRoomApi.useKitHistoryQuery({ entity, id });
  const [save] = kitApi.useSaveKitMutation();
  const dispatch = useDispatch();
  const former = (data?.versions ?? []).filter((v) => v.rev < rev).reverse();
  if (former.length === 0) return null;
  const bringBack = async (doc: Record<string, unknown>): Promise<void> => {
    const saved = await save({ entity, doc: { ...doc, id }, rev });
    if (saved.data === undefined) return;
    dispatch(noticed({ text: "The former version is back.", undo: null }));
    onBroughtBack(saved.data.rev);
  };
  return (
    <section aria-labelledby="history" className="mt-8 max-w-3xl">
      <h2 id="history">Former versions</h2>
      <p className="text-sm text-soft">Runs keep the version they were made with.</p>
      <ul>
        {former.map((v) => (
          <li key={v.rev} className="hairline flex flex-wrap items-baseline gap-x-4 py-1.5">
            <span className="num text-sm text-soft">
              {v.rev}, {formatDate(v.savedAtMs, "dayTime")}
            </span>
            <span className="flex-1">
              {Object.entries(v.doc)
                .filter(([key]) => ["name", "firmware", "mbps", "limitSec", "archived"].includes(key))
                .map(([key, value]) => `${key} ${String(value)}`)
                .join(" · ")}
            </span>
            <Button tone="quiet" onClick={() => void bringBack(v.doc)}>
              Bring back
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
