import type { AnyPart, Shape } from "../data/index.ts";
import { jsonOf, plainPart } from "../data/index.ts";

const shape: Shape<"walkClips"> = {
  from: "walk_clip",
  columns: { sessionId: ["session_id"], sha256: ["sha256"], clip: ["doc", "json"] },
  key: ["sessionId", "sha256"],
  // A clip may have been measured anew since.
  ours: ["clip"],
  receivedMs: "received_ms",
};

export const walkArchive: readonly AnyPart[] = [
  plainPart("walkClips", shape, [
    ["session", (l) => l.sessionId],
    ["sha256", (l) => l.sha256],
    ["path", (l) => l.clip.packSha256],
    ["method", (l) => `${l.clip.method} ${l.clip.methodVersion}`],
    ["width", (l) => l.clip.widthPx],
    ["height", (l) => l.clip.heightPx],
    ["crop", (l) => l.clip.crop?.factor ?? ""],
    ["all", (l) => jsonOf(l.clip)],
  ]),
];
