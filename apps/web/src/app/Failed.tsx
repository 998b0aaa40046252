// A page that threw, or whose code could not be loaded. The shell and its line about saved marks stay around it.

import { isRouteErrorResponse, Link, useLocation, useRouteError } from "react-router";
import { isNotLoaded } from "../shared/api/untilLoaded.ts";
import { Button, Note, PageHead } from "../shared/ui/parts.tsx";

export function Failed() {
  const error = useRouteError();
  const { pathname } = useLocation();
  return (
    <div role="alert" className="space-y-3">
      <PageHead title="This page failed" />
      <p>
        Nothing on record was changed, and what was pressed is kept; the line below tells. What failed is the page at{" "}
        <span className="num">{pathname}</span>:
      </p>
      <Note tone="alert">{sentenceOfFailure(error)}</Note>
      <p className="flex flex-wrap items-center gap-4">
        <Button onClick={() => location.reload()}>Load it again</Button>
        <Link to="/">To the bench</Link>
      </p>
    </div>
  );
}

export function sentenceOfFailure(error: unknown): string {
  if (isRouteErrorResponse(error)) return `${error.status} ${error.statusText}`;
  const words = error instanceof Error ? error.message : String(error);
  if (isNotLoaded(error)) return "Its code could not be loaded: the server is away, or was replaced by a newer version.";
  return words === "" ? "It gave no reason." : words;
}
