import { kitApi } from "../../shared/kit/api.ts";

export interface Body {
  id: string;
  name: string;
}

/** The bodies of a test with the names the kit has for them. */
export function useBodies(ids: readonly string[]): readonly Body[] {
  const { data: kit } = kitApi.useKitQuery();
  return ids.map((id) => ({ id, name: kit?.units.find((u) => u.id === id)?.name ?? "a body" }));
}

/** Of two bodies whose take it is; empty with one. */
export const bodyNameOf = (bodies: readonly Body[], unitId: string | null): string =>
  bodies.length < 2 ? "" : (bodies.find((b) => b.id === unitId)?.name ?? "");
