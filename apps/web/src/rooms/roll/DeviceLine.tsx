import { useKeepAwake } from "../../record/abilities.ts";
import { useReloadsOffline } from "../../record/offlineCopy.ts";

/** What this device cannot do while it rolls, and what to do about it; nothing when all is well. */
export function DeviceLine({ rolling }: { rolling: boolean }) {
  const awake = useKeepAwake(rolling);
  const reloads = useReloadsOffline();
  const says = [
    awake === "cannot" && "This page cannot keep the screen on here: set the display time-out longer than the run.",
    rolling && !reloads && "Keep this page open: without the server it cannot be loaded again here. What is pressed stays on this device.",
  ].filter((line) => line !== false);
  if (says.length === 0) return null;
  return (
    <p className="text-sm text-soft" data-testid="device-line">
      {says.join(" ")}
    </p>
  );
}
