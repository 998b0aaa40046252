// npm run words -- heat: everything the room can say, file by file, to be read aloud.

import path from "node:path";
import { ROOMS, sentencesOf } from "./sentences.ts";

const room = process.argv[2] ?? "";
const places = ROOMS[room];
if (places === undefined) {
  console.error(`Which room? One of ${Object.keys(ROOMS).join(", ")}; got "${room}".`);
  process.exit(1);
}
let last = "";
for (const { file, line, text } of sentencesOf(path.resolve(import.meta.dirname, "../.."), places)) {
  if (file !== last) console.log(`\n${file}`);
  last = file;
  console.log(`${String(line).padStart(5)}  ${text}`);
}
