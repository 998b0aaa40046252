// What every page of one walking test begins with: its facts and numbers, or what stands in the way of them.

import type { WalkPlan } from "@keep-rolling/core/walks";
import type { ReactNode } from "react";
import { useParams } from "react-router";
import { sentenceOf } from "../../shared/api/api.ts";
import { Loading, Note, Trouble } from "../../shared/ui/parts.tsx";
import type { Numbers, SeenWalk } from "./useWalk.ts";
import { useNumbers, useWalk } from "./useWalk.ts";

export interface OpenedWalk {
  id: string;
  seen: SeenWalk;
  plan: WalkPlan;
  numbers: Numbers;
}

export function OpenWalk({ children }: { children: (opened: OpenedWalk) => ReactNode }) {
  const { sessionId = "" } = useParams();
  const seen = useWalk(sessionId);
  const numbers = useNumbers(sessionId, seen.walk);
  if (!seen.known)
    return seen.isLoading ? (
      <Loading what="the walking test" />
    ) : (
      <Trouble sentence={sentenceOf(seen.error)} retry={() => void seen.refetch()} />
    );
  const { plan } = seen.walk;
  if (plan === null) return <p>Nothing is planned for it yet.</p>;
  return (
    <>
      {children({ id: sessionId, seen, plan, numbers })}
      {numbers.trouble !== null && <Note tone="alert">{numbers.trouble}</Note>}
    </>
  );
}
