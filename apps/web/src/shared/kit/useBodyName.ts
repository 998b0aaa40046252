import { kitApi } from "./api.ts";

/** Names of bodies as the kit has them; empty while it is read. */
export function useBodyName(): (unitId: string | null) => string {
  const { data: kit } = kitApi.useKitQuery();
  return (unitId) =>
    unitId === null
      ? "body not said"
      : kit === undefined
        ? ""
        : (kit.units.find((u) => u.id === unitId)?.name ?? "a body no longer in the kit");
}
