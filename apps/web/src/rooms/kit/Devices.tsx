// Devices that may post readings for this body: a token each, shown once, revocable.

import { deviceApi } from "../../shared/devices/api.ts";
import { kitRoomApi } from "./api.ts";
import { useState } from "react";
import { v7 as uuidv7 } from "uuid";
import { sentenceOf } from "../../shared/api/api.ts";
import { TextField } from "../../shared/ui/fields.tsx";
import { Button, Note } from "../../shared/ui/parts.tsx";

export function Devices({ unitId }: { unitId: string }) {
  const { data } = deviceApi.useDevicesQuery();
  const [add, { error }] = kitRoomApi.useAddDeviceMutation();
  const [revoke] = kitRoomApi.useRevokeDeviceMutation();
  const [name, setName] = useState("");
  const [token, setToken] = useState<string | null>(null);
  const mine = (data?.devices ?? []).filter((d) => d.kind === "sensor" && d.unitId === unitId && !d.revoked);
  return (
    <section aria-labelledby="devices" className="mt-8 max-w-3xl space-y-2">
      <h2 id="devices">Loggers that post for this body</h2>
      <p className="text-sm text-soft">
        They send readings to <code className="num">/intake/v1/batches</code> with their token. See docs/intake.md.
      </p>
      <ul>
        {mine.map((d) => (
          <li key={d.id} className="hairline flex items-baseline gap-4 py-1.5">
            <span className="flex-1">{d.name}</span>
            <Button tone="quiet" onClick={() => void revoke(d.id)}>
              Revoke its token
            </Button>
          </li>
        ))}
      </ul>
      <form
        className="flex flex-wrap items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void add({ id: uuidv7(), unitId, name }).then((made) => {
            if (made.data === undefined) return;
            setToken(made.data.token);
            setName("");
          });
        }}
      >
        <TextField
          label="Name of the logger"
          value={name}
          onChange={(e) => setName(e.target.value)}
          error={error === undefined ? undefined : sentenceOf(error)}
        />
        <Button type="submit">Make a token</Button>
      </form>
      {token !== null && (
        <Note>
          Its token, shown only now: <code className="num break-all text-ink">{token}</code>
        </Note>
      )}
    </section>
  );
}
