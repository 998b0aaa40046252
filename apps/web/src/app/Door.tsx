// Beyond loopback the bench asks for its passphrase. Marks pressed meanwhile stay on the device.

import { doorApi } from "./api.ts";
import { kitApi } from "../shared/kit/api.ts";
import type { ReactNode } from "react";
import { useEffect, useState } from "react";
import { problemOf, sentenceOf } from "../shared/api/api.ts";
import { forgetKept } from "../shared/api/keptAnswers.ts";
import { Button, Note } from "../shared/ui/parts.tsx";

export function Door({ children }: { children: ReactNode }) {
  const { error } = kitApi.useKitQuery();
  return problemOf(error)?.code === "needs-passphrase" ? <Passphrase /> : children;
}

function Passphrase() {
  const [words, setWords] = useState("");
  const [open, { error, isLoading }] = doorApi.useOpenSessionMutation();
  useEffect(forgetKept, []);
  return (
    <form
      className="max-w-md space-y-3"
      onSubmit={(event) => {
        event.preventDefault();
        void open(words);
      }}
    >
      <h1>Passphrase of this bench</h1>
      {location.protocol === "http:" && <Note>This connection is not encrypted: on a network you do not trust it can be overheard.</Note>}
      <label className="block">
        Passphrase
        <input
          className="mt-1 block w-full"
          type="password"
          autoComplete="current-password"
          value={words}
          onChange={(e) => setWords(e.target.value)}
        />
      </label>
      {error !== undefined && (
        <Note tone="alert" live>
          {sentenceOf(error)}
        </Note>
      )}
      <Button type="submit" tone="main" disabled={isLoading}>
        Open
      </Button>
    </form>
  );
}
