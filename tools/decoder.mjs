// Debian's ffmpeg for clips that a browser cannot decode, installed after the page is up: the first start does not wait for it.

import { ensureDebian } from "./setup.mjs";

try {
  ensureDebian(["ffmpeg"], () => undefined);
} catch (error) {
  console.error(`Clips that a browser cannot decode will not be measured: ${error.message}`);
}
