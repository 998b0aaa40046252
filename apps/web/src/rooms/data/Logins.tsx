// Who has been let in: each device with when it was last seen, ended one by one or all others at once; this one logs out here.

import { sentenceOf } from "../../shared/api/api.ts";
import { formatDate } from "../../shared/dates/dates.ts";
import { Button, Note } from "../../shared/ui/parts.tsx";
import { dataApi } from "./api.ts";

/** Nothing where no passphrase is asked: then only this computer can connect. */
export function Logins() {
  const { data, error } = dataApi.useLoginsQuery();
  const [end, ending] = dataApi.useEndLoginMutation();
  if (data?.asks !== true && error === undefined) return null;
  const logins = data?.logins ?? [];
  return (
    <section aria-labelledby="logins">
      <h2 id="logins" className="mb-2 border-b border-rule2 pb-1">
        Who is let in
      </h2>
      {error !== undefined && <Note tone="alert">{sentenceOf(error)}</Note>}
      <ul>
        {logins.map((l) => (
          <li key={l.id} className="hairline flex flex-wrap items-baseline gap-x-4 py-2">
            <span className="font-semibold">{l.here ? "This device" : l.label}</span>
            <span className="num text-sm text-soft">{`${l.address} · since ${formatDate(l.sinceMs, "dayTime")} · seen ${formatDate(l.seenMs, "dayTime")}`}</span>
            <Button
              tone="quiet"
              className="ml-auto"
              disabled={ending.isLoading}
              aria-label={l.here ? "Log out of this device" : `End the login of ${l.label}, since ${formatDate(l.sinceMs, "dayTime")}`}
              onClick={() => void end(l.id)}
            >
              {l.here ? "Log out" : "End"}
            </Button>
          </li>
        ))}
      </ul>
      {logins.some((l) => !l.here) && (
        <Button className="mt-2" disabled={ending.isLoading} onClick={() => void end("others")}>
          End all others
        </Button>
      )}
      {ending.error !== undefined && (
        <Note tone="alert" live>
          {sentenceOf(ending.error)}
        </Note>
      )}
      <p className="mt-2 text-sm text-soft">Another passphrase ends all of them. Marks that a device has not sent yet stay on it.</p>
    </section>
  );
}
