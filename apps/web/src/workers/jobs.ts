// The jobs workers do, each in a file of its own that is loaded when it is first asked for. A new job is a file and one line here.

export const JOBS = {
  compareHands: () => import("./jobs/compareHands.ts"),
  compareMove: () => import("./jobs/compareMove.ts"),
  cropOf: () => import("./jobs/cropOf.ts"),
  hashClip: () => import("./jobs/hashClip.ts"),
  liveChance: () => import("./jobs/liveChance.ts"),
  makeClip: () => import("./jobs/makeClip.ts"),
  makePicture: () => import("./jobs/makePicture.ts"),
  matchCopies: () => import("./jobs/matchCopies.ts"),
  measureClip: () => import("./jobs/measureClip.ts"),
  nextRuns: () => import("./jobs/nextRuns.ts"),
  planDay: () => import("./jobs/planDay.ts"),
  readClips: () => import("./jobs/readClips.ts"),
  readHands: () => import("./jobs/readHands.ts"),
  readPicture: () => import("./jobs/readPicture.ts"),
  readTakes: () => import("./jobs/readTakes.ts"),
  readUnit: () => import("./jobs/readUnit.ts"),
  syncTakes: () => import("./jobs/syncTakes.ts"),
};

type Loaded<K extends JobName> = Awaited<ReturnType<(typeof JOBS)[K]>>;
export type JobName = keyof typeof JOBS;
export type JobInput<K extends JobName> = Parameters<Loaded<K>["run"]>[0];
export type JobOutput<K extends JobName> = Awaited<ReturnType<Loaded<K>["run"]>>;
