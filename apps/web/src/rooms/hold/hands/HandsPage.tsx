// This lens, down to this shutter: every lens, stance and pair of hands with all sessions; two of them beside each other; a lens nobody has tested.

import { Link } from "react-router";
import { Button, PageHead } from "../../../shared/ui/parts.tsx";
import { Apart } from "./Apart.tsx";
import { HandsTable } from "./HandsTable.tsx";
import { Untested } from "./Untested.tsx";
import { ReadHands } from "./useHands.tsx";

export const HandsPage = () => (
  <article className="limit-sheet">
    <PageHead
      title="This lens, down to this shutter"
      sub="the slowest time at which at least 8 of 10 are kept, 90 % sure, where no other share is named; by lens, stance and hands"
    >
      <Link to="/hold">All shutter-speed tests</Link>
      <Link to="/hold/pocket">Pocket card</Link>
      <Button tone="main" onClick={() => print()}>
        Print
      </Button>
    </PageHead>
    <ReadHands>
      {(hands) => (
        <>
          <HandsTable rows={hands.rows} />
          <div className="print:hidden">
            <Apart {...hands} />
            <Untested rows={hands.rows} />
          </div>
        </>
      )}
    </ReadHands>
  </article>
);
