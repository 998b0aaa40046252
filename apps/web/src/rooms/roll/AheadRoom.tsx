// The room kept free for what will end it, until that is computed.

/** Nothing may move under a finger that is about to press. `waiting`: false while too little is filled in to compute it. */
export const AheadRoom = ({ waiting, failed = false }: { waiting: boolean; failed?: boolean }) => (
  <p className={`mb-5 h-40 text-sm ${failed ? "text-alert" : "text-soft"}`}>{waiting ? (failed ? UNREAD : READING) : ""}</p>
);

const READING = "Reading earlier runs for what will end this one …";
const UNREAD =
  "Earlier runs cannot be read just now: what will end this one, and how warm the body still is, are not known. Say the start state yourself.";
