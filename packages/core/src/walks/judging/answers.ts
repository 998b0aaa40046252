// What may be said of a pair that was looked at blind. By itself: the record knows it on every page, and nobody reckons with it there.

export const ANSWERS = ["left", "right", "none"] as const;
export type Answer = (typeof ANSWERS)[number];
