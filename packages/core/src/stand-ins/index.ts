export type { CameraEvent, CameraMoment, CameraRun, CameraSettings } from "./simulatedCamera.ts";
export type { StandInClip } from "./standInClips.ts";
export { standInClips, standInHabits } from "./standInClips.ts";
export type { StandInRun } from "./standInPlay.ts";
export { STAND_IN_MOST_MS, heatLeftK, playStandIn } from "./standInPlay.ts";
export type { ClipSpec, LaidOut } from "./writeClip.ts";
export { bytesOf, layOutClip } from "./writeClip.ts";
