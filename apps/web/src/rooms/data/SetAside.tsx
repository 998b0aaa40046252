// What could not be taken into the record, kept whole: on the server and on this device.

import { deviceApi } from "../../shared/devices/api.ts";
import { sentenceOf } from "../../shared/api/api.ts";
import { formatDate } from "../../shared/dates/dates.ts";
import { useDevice } from "../../record/device.ts";
import { saveJson } from "../../shared/ui/saveFile.ts";
import { Button, Loading, Trouble } from "../../shared/ui/parts.tsx";

export function SetAside() {
  const { data, error, refetch } = deviceApi.useSetAsideQuery();
  const { outbox } = useDevice();
  const mine = outbox.entries.filter((e) => e.delivery === "set aside");
  if (error !== undefined && mine.length === 0) return <Trouble sentence={sentenceOf(error)} retry={() => void refetch()} />;
  if (data === undefined && error === undefined) return <Loading what="what was set aside" />;
  const there = data?.setAside ?? [];
  if (mine.length + there.length === 0) return <p className="text-soft">Nothing: everything that came was taken in.</p>;
  return (
    <div className="space-y-2">
      <ul>
        {mine.map((e) => (
          <li key={e.mark.id} className="hairline py-1.5">
            {`${e.mark.kind}, on this device: ${e.reason ?? "no reason given"}`}
          </li>
        ))}
        {there.map((s) => (
          <li key={s.n} className="hairline py-1.5">
            {s.code}
            <span className="block text-sm text-soft">
              {`${s.deviceName ?? "from an archive or an unknown device"}, ${formatDate(s.receivedMs, "dayTime")}`}
            </span>
            <details className="text-sm">
              <summary>what came</summary>
              <code className="num block max-h-40 overflow-auto break-all" tabIndex={0}>
                {s.raw}
              </code>
            </details>
          </li>
        ))}
      </ul>
      <Button onClick={() => saveJson("keep-rolling-set-aside.json", { server: there, device: mine })}>Download all of it</Button>
    </div>
  );
}
