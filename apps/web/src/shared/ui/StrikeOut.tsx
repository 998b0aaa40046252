// Striking a run out of the statements, with a reason, and taking that back. The run itself stays.

import { recordApi } from "../../record/api.ts";
import { useKeptState } from "../drafts/useKeptState.ts";
import { sentenceOf } from "../api/api.ts";
import { TextField } from "./fields.tsx";
import { Button, Note } from "./parts.tsx";

export function StrikeOut({ runId, struck }: { runId: string; struck: string | null }) {
  const [strike, striking] = recordApi.useStrikeMutation();
  const [unstrike, unstriking] = recordApi.useUnstrikeMutation();
  // A reason half typed is there again after a reload.
  const [{ reason }, keep, forget] = useKeptState(`leave out ${runId}`, { reason: "" });
  const error = striking.error ?? unstriking.error;
  return (
    <section aria-label="Leave out" className="space-y-2">
      {struck === null ? (
        <form
          className="flex flex-wrap items-end gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            void strike({ runId, reason }).then(({ error: refused }) => refused === undefined && forget());
          }}
        >
          <TextField
            label="Leave this run out, because"
            value={reason}
            onChange={(event) => keep(() => ({ reason: event.target.value }))}
          />
          <Button type="submit" disabled={reason.trim().length < 3}>
            Leave out
          </Button>
        </form>
      ) : (
        <p>
          Left out: {struck}{" "}
          <Button tone="quiet" onClick={() => void unstrike(runId)}>
            Count it again
          </Button>
        </p>
      )}
      {error !== undefined && (
        <Note tone="alert" live>
          {sentenceOf(error)}
        </Note>
      )}
    </section>
  );
}
