// The room kept free for what will end it, until that is computed.

/** Nothing may move under a finger that is about to press. */
export const AheadRoom = () => <div className="mb-5 h-40" aria-hidden="true" />;
