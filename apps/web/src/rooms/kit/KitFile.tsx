// The kit as a JSON file: out as it stands, in after a look at what it would change.

import { kitRoomApi } from "./api.ts";
import type { BundleReport, KitBundle } from "@keep-rolling/contract/kit";
import { kitBundle } from "@keep-rolling/contract/kit";
import { useState } from "react";
import { useDispatch } from "react-redux";
import { sentenceOf } from "../../shared/api/api.ts";
import { noticed } from "../../shared/notice/notice.ts";
import { Button, Note } from "../../shared/ui/parts.tsx";

export function KitFile() {
  const [take, { isLoading }] = kitRoomApi.useTakeKitFileMutation();
  const dispatch = useDispatch();
  const [bundle, setBundle] = useState<KitBundle | null>(null);
  const [report, setReport] = useState<BundleReport | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const look = async (file: File | undefined): Promise<void> => {
    setReport(null);
    setTrouble(null);
    if (file === undefined) return;
    const read = readBundle(await file.text());
    if (typeof read === "string") return setTrouble(read);
    setBundle(read);
    const done = await take({ bundle: read, store: false });
    if (done.error === undefined) setReport(done.data);
    else setTrouble(sentenceOf(done.error));
  };
  const importKit = async (): Promise<void> => {
    if (bundle === null) return;
    const done = await take({ bundle, store: true });
    if (done.error !== undefined) return setTrouble(sentenceOf(done.error));
    setReport(null);
    dispatch(noticed({ text: `Brought in: ${wordsOf(done.data)}. Former versions are in each row's history.`, undo: null }));
  };
  const changes = report?.rows.filter((r) => r.what !== "same") ?? [];
  return (
    <div className="max-w-3xl space-y-6">
      <section aria-labelledby="out" className="space-y-2">
        <h2 id="out">Out</h2>
        <p className="text-soft">
          Models, units, modes, published times, cards, batteries, lenses, conditions and protocols, as one JSON file. Runs and plans leave
          by the Data room.
        </p>
        <a
          className="inline-block rounded-md border border-rule2 bg-key px-4 py-2 no-underline"
          href="/api/kit-file"
          download="keep-rolling-kit.json"
        >
          Download the kit
        </a>
      </section>
      <section aria-labelledby="in" className="space-y-2">
        <h2 id="in">In</h2>
        <p className="text-soft">Rows are known by their ids: new ones are added, changed ones become a new version, nothing is removed.</p>
        <label className="block">
          <span className="mb-1 block text-sm font-semibold">Kit file to bring in</span>
          <input type="file" accept="application/json,.json" onChange={(e) => void look(e.target.files?.[0])} />
        </label>
        {trouble !== null && (
          <Note tone="alert" live>
            {trouble}
          </Note>
        )}
        {report !== null && (
          <>
            <p>
              {changes.length === 0 ? "Everything in it is here already." : `Nothing is changed yet. It would bring: ${wordsOf(report)}.`}
            </p>
            <ul className="text-sm">
              {changes.map((r) => (
                <li key={`${r.entity} ${r.id}`} className="hairline py-1">{`${r.what}: ${r.name || r.entity}`}</li>
              ))}
            </ul>
            {changes.length > 0 && (
              <Button tone="main" disabled={isLoading} onClick={() => void importKit()}>
                Bring it in
              </Button>
            )}
          </>
        )}
      </section>
    </div>
  );
}

const wordsOf = (report: BundleReport): string => {
  const count = (what: string): number => report.rows.filter((r) => r.what === what).length;
  return `${count("new")} new, ${count("changed")} changed, ${count("same")} the same`;
};

/** The bundle, or what is wrong with it as a sentence. */
export function readBundle(text: string): KitBundle | string {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    return "The file is not JSON. Nothing was changed.";
  }
  const parsed = kitBundle.safeParse(json);
  if (parsed.success) return parsed.data;
  const [issue] = parsed.error.issues;
  return `${issue?.path.length ? `${issue.path.join(".")}: ` : ""}${issue?.message ?? "The file does not fit."} Nothing was changed.`;
}
