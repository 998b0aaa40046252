// What this device can and cannot do here, in plain words.

import { useReloadsOffline } from "../../record/offlineCopy.ts";
import { clockOffset, useDevice } from "../../record/device.ts";
import { formatSpan } from "@keep-rolling/core/format";
import { useBenchNow } from "../../record/benchTime.ts";
import { Fact } from "../../shared/ui/parts.tsx";

const NEVER_MS = 86_400_000;

export function ThisDevice() {
  const { outbox, online } = useDevice();
  // The clock's error grows by itself.
  useBenchNow(undefined, 1000);
  const reloads = useReloadsOffline();
  const { offsetMs, errMs } = clockOffset();
  return (
    <dl className="border-b border-rule [&_dd>.num]:font-text">
      <Fact
        label="marks"
        value={outbox.waiting === 0 ? "all saved" : `${outbox.waiting} waiting`}
        note={
          outbox.lasting
            ? "kept on this device before they are sent, and until their run has ended and all is on record"
            : "this browser gives no lasting store (private window, or no room): keep the page open until all is saved"
        }
      />
      <Fact
        label="reload"
        value={reloads ? "works offline" : "needs the server"}
        note={
          reloads
            ? "page and last answers are kept on this device"
            : window.isSecureContext
              ? "the page is not kept yet; load it once more while the server is there"
              : "a browser keeps a page only over https or on the same computer; keep it open during a run"
        }
      />
      <Fact
        label="screen"
        value={"wakeLock" in navigator ? "stays on" : "may go dark"}
        note={"wakeLock" in navigator ? "while a run rolls in front" : "set the display time-out longer than the run"}
      />
      <Fact
        label="clock"
        value={errMs >= NEVER_MS ? "not compared" : `± ${errMs < 1000 ? `${errMs} ms` : formatSpan(errMs)}`}
        note={
          errMs >= NEVER_MS
            ? "marks get this device's own time until the server answers"
            : `this device's clock is ${Math.abs(offsetMs) < 1000 ? `${Math.abs(offsetMs)} ms` : formatSpan(Math.abs(offsetMs))} ${offsetMs > 0 ? "behind" : "ahead of"} the server's; marks are corrected for it`
        }
      />
      <Fact label="server" value={online ? "reached" : "not reached"} />
    </dl>
  );
}
