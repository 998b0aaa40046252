// The kit: models with their bodies, recording modes and rated figures; things; conditions and protocols; the kit as a file.

import { statedWords } from "../../rulers/glyphs/words.ts";
import { kitApi } from "../../shared/kit/api.ts";
import type { Kit } from "@keep-rolling/contract/kit";
import { formatTemperature } from "@keep-rolling/core/format";
import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import { sentenceOf } from "../../shared/api/api.ts";
import { useSettings } from "../../shared/settings/settings.ts";
import { Loading, PageHead, Trouble } from "../../shared/ui/parts.tsx";
import { KitFile } from "./KitFile.tsx";
import type { Section } from "./sections.ts";
import { sectionAddress, SECTIONS } from "./sections.ts";
import { Conditions, Protocols } from "./Standards.tsx";
import { Things } from "./Things.tsx";

export function KitPage() {
  const { data: kit, error, refetch } = kitApi.useKitQuery();
  const [archived, setArchived] = useState(false);
  if (kit === undefined)
    return error === undefined ? <Loading what="the kit" /> : <Trouble sentence={sentenceOf(error)} retry={() => void refetch()} />;
  return <TheKit kit={kit} archived={archived} onArchived={setArchived} />;
}

function TheKit({ kit, archived, onArchived }: { kit: Kit; archived: boolean; onArchived: (shown: boolean) => void }) {
  const [params] = useSearchParams();
  const section = SECTIONS.find(([s]) => s === params.get("of"))?.[0] ?? "bodies";
  const anyArchived = [...kit.models, ...kit.units, ...kit.modes, ...kit.items, ...kit.conditions, ...kit.protocols].some(
    (row) => row.archived,
  );
  return (
    <>
      <PageHead title="Kit" sub="A unit is one body; limits belong to it. Every run keeps the kit as it was.">
        {anyArchived && (
          <label className="flex items-center gap-2">
            <input type="checkbox" checked={archived} onChange={(e) => onArchived(e.target.checked)} /> Show what is put away
          </label>
        )}
        <Add section={section} />
      </PageHead>
      <nav aria-label="Parts of the kit" className="no-print mb-5 flex flex-wrap gap-x-6 gap-y-1">
        {SECTIONS.map(([s, words]) => (
          <Link
            key={s}
            to={sectionAddress(s)}
            aria-current={s === section ? "page" : undefined}
            className={
              s === section ? "border-b-3 border-here pb-0.5 font-semibold no-underline" : "pb-0.5 text-soft no-underline hover:text-ink"
            }
          >
            {words}
          </Link>
        ))}
      </nav>
      {section === "bodies" && <Bodies kit={kit} archived={archived} />}
      {section === "things" && <Things kit={kit} archived={archived} />}
      {section === "conditions" && <Conditions kit={kit} archived={archived} />}
      {section === "protocols" && <Protocols kit={kit} archived={archived} />}
      {section === "file" && <KitFile />}
    </>
  );
}

const ADD: Partial<Record<Section, readonly [string, string]>> = {
  bodies: ["/kit/add", "Add a body"],
  conditions: ["/kit/conditions/new", "Add a condition"],
  protocols: ["/kit/protocols/new", "Add a protocol"],
};

function Add({ section }: { section: Section }) {
  const add = ADD[section];
  return (
    <>
      {(section === "conditions" || section === "protocols") && <Link to="/kit/compare">Compare two</Link>}
      {section === "bodies" && <Link to="/kit/models/new">Add a model alone</Link>}
      {add !== undefined && (
        <Link className="rounded-md border border-cool bg-cool px-4 py-2 font-semibold text-ground no-underline" to={add[0]}>
          {add[1]}
        </Link>
      )}
    </>
  );
}

function Bodies({ kit, archived }: { kit: Kit; archived: boolean }) {
  return (
    <div className="space-y-8">
      {kit.models
        .filter((m) => archived || !m.archived)
        .map((model) => (
          <ModelSection key={model.id} kit={kit} model={model} archived={archived} />
        ))}
    </div>
  );
}

function ModelSection({ kit, model, archived }: { kit: Kit; model: Kit["models"][number]; archived: boolean }) {
  const units = kit.units.filter((u) => u.modelId === model.id && (archived || !u.archived));
  const modes = kit.modes.filter((m) => m.modelId === model.id && (archived || !m.archived));
  return (
    <section aria-label={model.name} className="hairline pt-3">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h2>
          <Link to={`/kit/models/${model.id}`}>{model.name}</Link>
        </h2>
        <span className="num text-sm text-soft">
          {model.sensorWidthMm} × {model.sensorHeightMm} mm, {model.megapixels} million pixels{model.archived && " · put away"}
        </span>
      </div>
      <div className="mt-2 grid gap-x-10 gap-y-4 lg:grid-cols-[1fr_2.6fr]">
        <UnitList units={units} modelId={model.id} />
        <ModeTable kit={kit} modes={modes} modelId={model.id} modelName={model.name} />
      </div>
    </section>
  );
}

function UnitList({ units, modelId }: { units: Kit["units"]; modelId: string }) {
  return (
    <div>
      <h3>Units</h3>
      <ul>
        {units.map((u) => (
          <li key={u.id} className="hairline py-1.5">
            <Link to={`/kit/units/${u.id}`}>{u.name}</Link>
            <span className="text-sm text-soft">
              {" "}
              {u.serialLabel && `${u.serialLabel} · `}firmware {u.firmware}
              {u.bench !== "real" && ` · stand-in, ${u.bench}`}
              {u.archived && " · put away"}
            </span>
            <span className="block text-sm">
              <Link to={`/heat/${u.id}`}>its runs</Link> · <Link to={`/roll?unit=${u.id}`}>start a run</Link>
            </span>
          </li>
        ))}
      </ul>
      <Link className="text-sm" to={`/kit/units/new?parent=${modelId}`}>
        Add a unit
      </Link>
    </div>
  );
}

function ModeTable({ kit, modes, modelId, modelName }: { kit: Kit; modes: Kit["modes"]; modelId: string; modelName: string }) {
  const { temperature } = useSettings();
  return (
    <div className="min-w-0">
      <h3>Recording modes</h3>
      {modes.length > 0 && (
        <div className="relative overflow-x-auto" tabIndex={0} role="region" aria-label={`Recording modes of ${modelName}, table`}>
          <table className="w-full text-[0.95rem]">
            <thead>
              <tr className="text-left text-sm text-soft">
                {["Mode", "Picture", "Codec", "Published", ""].map((head) => (
                  <th key={head} scope="col" className="py-1 pr-4 font-normal">
                    {head || <span className="sr-only">Edit published times</span>}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {modes.map((m) => (
                <tr key={m.id} className="hairline align-baseline">
                  <th scope="row" className="py-1.5 pr-4 text-left font-normal">
                    <Link to={`/kit/modes/${m.id}`}>{m.name}</Link>
                    {m.archived && <span className="text-soft"> · put away</span>}
                  </th>
                  <td className="num pr-4 text-sm">
                    {m.widthPx}×{m.heightPx} {Math.round((m.fpsNum / m.fpsDen) * 100) / 100}p
                    <span className="block text-soft">{m.readout}</span>
                  </td>
                  <td className="pr-4 text-sm">
                    {m.codec} {m.compression}, {m.bits} bit
                    <span className="num block text-soft">{m.mbps} Mbit/s</span>
                  </td>
                  <td className="num pr-4 text-sm whitespace-nowrap text-claim">
                    {kit.figures
                      .filter((f) => f.modeId === m.id && !f.archived)
                      .map((f) => (
                        <Link key={f.id} to={`/kit/figures/${f.id}`} className="block">
                          {f.kind === "outside" && <span className="font-text">another tester: </span>}
                          {statedWords(f)}
                          {f.ambientC !== null && ` at ${formatTemperature(f.ambientC, temperature)}`}
                          {f.source !== "" && <span className="block max-w-56 truncate text-soft">{f.source}</span>}
                        </Link>
                      ))}
                  </td>
                  <td className="text-sm whitespace-nowrap">
                    <Link to={`/kit/figures/new?parent=${m.id}`}>
                      add a published time<span className="sr-only">{` to ${m.name}`}</span>
                    </Link>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      <Link className="text-sm" to={`/kit/modes/new?parent=${modelId}`}>
        Add a recording mode
      </Link>
    </div>
  );
}
