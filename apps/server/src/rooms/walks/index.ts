export { saveWalkClip } from "./walkStore.ts";
