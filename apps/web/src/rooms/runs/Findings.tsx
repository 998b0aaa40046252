// What the fold could not fit, each with what settles it: one press, kept as a mark.

import type { Clock } from "@keep-rolling/contract/clocks";
import { presser } from "../../record/pressing.ts";
import type { WatchedRun } from "../../record/runs.ts";
import { settle, toSettle } from "../../record/settling.ts";
import { useSettings } from "../../shared/settings/settings.ts";
import { Button } from "../../shared/ui/parts.tsx";

export function Findings({ run, clock }: { run: WatchedRun; clock: Clock | undefined }) {
  const { temperature } = useSettings();
  const items = toSettle(run, temperature);
  const press = presser(run.id, clock);
  return (
    <section aria-labelledby="findings">
      <h2 id="findings">Findings</h2>
      {items.length === 0 && <p className="text-soft">None: every mark fits.</p>}
      <ul>
        {items.map((item) => (
          <li key={item.key} className="hairline py-2">
            <p>{item.sentence}</p>
            <p className="text-sm text-soft">{item.about}</p>
            {item.ways.length > 0 && (
              <p className="mt-1 flex flex-wrap gap-2">
                {item.ways.map((way) => (
                  <Button key={way.label} className="text-sm" onClick={() => void settle(press, way.presses)}>
                    {way.label}
                  </Button>
                ))}
              </p>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
