// Where a scanned code leads: lets this device in, then goes to the bench. The code is in the fragment, so it is never in a log.

import { doorApi } from "./api.ts";
import { useEffect, useRef } from "react";
import { Link, useNavigate } from "react-router";
import { sentenceOf } from "../shared/api/api.ts";
import { Note, PageHead } from "../shared/ui/parts.tsx";

export function PairPage() {
  const [pair, { error }] = doorApi.usePairMutation();
  const go = useNavigate();
  const requested = useRef(false);
  useEffect(() => {
    const code = location.hash.slice(1);
    if (requested.current) return;
    requested.current = true;
    history.replaceState(null, "", "/pair");
    void pair(code).then((reply) => {
      if (reply.error === undefined) void go("/", { replace: true });
    });
  }, [pair, go]);
  return (
    <main className="p-6">
      <PageHead title="Letting this device in" />
      {error === undefined ? (
        <p role="status">One moment …</p>
      ) : (
        <>
          <Note tone="alert">{sentenceOf(error)}</Note>
          <p className="mt-3">
            <Link to="/">To the bench</Link>, with the passphrase.
          </p>
        </>
      )}
    </main>
  );
}
