import { hashOf } from "./measureClip.ts";

/** The clip's name by its content; what it was called or where it lay does not matter. */
export const run = (file: File): Promise<string> => hashOf(file);
