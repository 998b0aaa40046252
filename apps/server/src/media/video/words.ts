import type { VideoProblem } from "./probe.ts";

export const PROBLEM_WORDS: Readonly<Record<VideoProblem, string>> = {
  "no-clip": "This is no MP4, MOV or WebM, whatever its name says.",
  "no-picture": "There is sound or data in it, but no moving picture.",
  "cut-off": "The file is cut off before its index: it was not closed, or not copied whole.",
  unreadable: "Its picture cannot be decoded here.",
  "too-small": "The picture is too small to be measured: at least 64 pixels a side are needed.",
  "too-large": "The picture is larger than 8192 pixels a side.",
  "no-frames": "Not a single frame could be decoded.",
  "no-ffmpeg": "ffmpeg is not installed.",
  stuck: "Decoding gave nothing for a minute and was ended.",
};
