import { useState } from "react";

/** One press at a time: what is pressed while another is still being kept is not done twice. */
export function useOnce(): [busy: boolean, once: (work: () => Promise<unknown>) => Promise<void>] {
  const [busy, setBusy] = useState(false);
  const once = async (work: () => Promise<unknown>): Promise<void> => {
    if (busy) return;
    setBusy(true);
    try {
      await work();
    } finally {
      setBusy(false);
    }
  };
  return [busy, once];
}
