// Who it is that judges, by initials.

import { useState } from "react";
import { Button } from "./parts.tsx";

export function InitialsForm({ begin }: { begin: (initials: string) => void }) {
  const [initials, setInitials] = useState("");
  return (
    <form
      className="flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (initials.trim() !== "") begin(initials.trim());
      }}
    >
      <label>
        <span className="block text-sm text-soft">Initials of who judges</span>
        <input value={initials} maxLength={20} onChange={(e) => setInitials(e.target.value)} className="w-32" />
      </label>
      <Button type="submit" tone="main" disabled={initials.trim() === ""}>
        Judge
      </Button>
    </form>
  );
}
