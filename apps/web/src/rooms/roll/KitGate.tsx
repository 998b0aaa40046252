// What stands before a set-up: the kit and the clocks are being read, or could not be.

import { kitApi } from "../../shared/kit/api.ts";
import { recordApi } from "../../record/api.ts";
import type { Kit } from "@keep-rolling/contract/kit";
import type { ReactNode } from "react";
import { sentenceOf } from "../../shared/api/api.ts";
import { Loading, Trouble } from "../../shared/ui/parts.tsx";

export function KitGate({ children }: { children: (kit: Kit) => ReactNode }) {
  const kit = kitApi.useKitQuery();
  const clocks = recordApi.useClocksQuery();
  if (kit.data === undefined)
    return kit.error === undefined ? (
      <Loading what="the kit" />
    ) : (
      <Trouble sentence={sentenceOf(kit.error)} retry={() => void kit.refetch()} />
    );
  return clocks.data === undefined ? <Loading what="the clocks" /> : children(kit.data);
}
