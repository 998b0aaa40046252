import { Link } from "react-router";
import { PageHead } from "../shared/ui/parts.tsx";

export function Lost() {
  return (
    <div className="p-6">
      <PageHead title="Nothing at this address" />
      <p>
        The record is untouched. Go to the <Link to="/">bench</Link>, or back.
      </p>
    </div>
  );
}
