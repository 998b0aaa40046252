// What stands before a set-up: the kit and the clocks are being read, or could not be.

import type { Kit } from "@keep-rolling/contract/kit";
import type { ReactNode } from "react";
import { api, sentenceOf } from "../../shared/api/api.ts";
import { Loading, Trouble } from "../../shared/ui/parts.tsx";

export function KitGate({ children }: { children: (kit: Kit) => ReactNode }) {
  const kit = api.useKitQuery();
  const clocks = api.useClocksQuery();
  if (kit.data === undefined)
    return kit.error === undefined ? (
      <Loading what="the kit" />
    ) : (
      <Trouble sentence={sentenceOf(kit.error)} retry={() => void kit.refetch()} />
    );
  return clocks.data === undefined ? <Loading what="the clocks" /> : children(kit.data);
}
