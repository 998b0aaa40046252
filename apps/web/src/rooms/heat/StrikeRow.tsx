import { Popover } from "radix-ui";
import { StrikeOut } from "../../shared/ui/StrikeOut.tsx";

/** Striking out from where the number is opened: a small sheet beside the run. */
export function StrikeRow({ runId, struck }: { runId: string; struck: string | null }) {
  return (
    <Popover.Root>
      <Popover.Trigger className="no-print ml-auto text-sm text-soft underline">
        {struck === null ? "leave out" : "count it again"}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content sideOffset={4} aria-label="Leave out" className="z-20 w-96 max-w-[92vw] border border-rule2 bg-sheet p-4">
          <StrikeOut runId={runId} struck={struck} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
