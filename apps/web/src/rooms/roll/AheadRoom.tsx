// The room kept free for what will end it, until that is computed.

/** Nothing may move under a finger that is about to press. `waiting`: false while too little is filled in to compute it. */
export const AheadRoom = ({ waiting }: { waiting: boolean }) => (
  <p className="mb-5 h-40 text-sm text-soft">{waiting ? "Reading earlier runs for what will end this one …" : ""}</p>
);
