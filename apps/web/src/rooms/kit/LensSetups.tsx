// Which stabilisation setups a lens allows on each model: what can be planned for walking tests, and why the rest cannot be.

import type { Kit } from "@keep-rolling/contract/kit";
import { fitsIn, NO_TRAITS, setupsOf } from "@keep-rolling/core/kit";

export function LensSetups({ kit, itemId }: { kit: Kit; itemId: string }) {
  const item = kit.items.find((i) => i.id === itemId);
  if (item === undefined || item.spec.kind !== "lens") return null;
  const lens = { id: item.id, name: item.name, count: item.count, fits: item.fits, spec: item.spec };
  const models = kit.models.filter((m) => !m.archived && fitsIn(item.fits, m.traits?.mount ?? ""));
  return (
    <section aria-labelledby="setups" className="mt-8 max-w-3xl">
      <h2 id="setups">Stabilisation it allows</h2>
      {models.map((model) => {
        const setups = setupsOf(model.traits ?? NO_TRAITS, lens);
        const impossible = setups.filter((s) => !s.possible);
        return (
          <div key={model.id} className="hairline py-2">
            <h3>{model.name}</h3>
            <p>
              {setups
                .filter((s) => s.possible)
                .map((s) => s.name)
                .join(" · ")}
            </p>
            {impossible.length > 0 && (
              <p className="text-sm text-soft">{`Cannot exist: ${[...new Set(impossible.map((s) => s.because))].join("; ")}.`}</p>
            )}
          </div>
        );
      })}
      {models.length === 0 && <p className="text-soft">No model in the kit has its mount.</p>}
    </section>
  );
}
