// How a JPEG stores colour, by its frame header: ITU-T T.81 B.2.2; JFIF 1.02 and Adobe's marker (from memory).

const [SOI, SOS, APP2, APP14] = [0xd8, 0xda, 0xe2, 0xee];
const FRAMES_BUT = [0xc4, 0xc8, 0xcc];

/** Three parts, brightness whole and the two of colour halved both ways, in the plain colours of JFIF: no profile and no transform of its own. */
export function isPlainHalvedColour(bytes: Uint8Array): boolean {
  if (bytes[0] !== 0xff || bytes[1] !== SOI) return false;
  let halved = false;
  for (let at = 2; at + 4 <= bytes.length; ) {
    const marker = bytes[at + 1] as number;
    if (bytes[at] !== 0xff) return false;
    if (marker === 0xff) {
      at++;
      continue;
    }
    if (marker === SOS) return halved;
    if (marker === APP14) return false;
    const body = at + 4;
    if (marker === APP2 && String.fromCharCode(...bytes.subarray(body, body + 11)) === "ICC_PROFILE") return false;
    // 0xc0 to 0xcf are frames, but for three of them that are tables.
    if (marker >= 0xc0 && marker <= 0xcf && !FRAMES_BUT.includes(marker)) halved = sampling(bytes, body) === "22,11,11";
    at += 2 + ((bytes[at + 2] as number) << 8) + (bytes[at + 3] as number);
  }
  return false;
}

/** Sampling factors of each part, in hexadecimal. */
function sampling(bytes: Uint8Array, body: number): string {
  const parts = bytes[body + 5] ?? 0;
  return Array.from({ length: parts }, (_, i) => (bytes[body + 7 + 3 * i] ?? 0).toString(16)).join(",");
}
