import { unpackRecord } from "@keep-rolling/core/motion";
import type { Signature } from "@keep-rolling/core/walks";
import { matchCopy, signatureOf } from "@keep-rolling/core/walks";

export interface CopyQuestion {
  copies: { sha256: string; pack: ArrayBuffer }[];
  parents: { id: string; pack: ArrayBuffer }[];
}

/** Of each clip the take it is a corrected copy of; clips that are none are left out. */
export function run({ copies, parents }: CopyQuestion): { sha256: string; parent: string; correlation: number }[] {
  const known = parents.flatMap(({ id, pack }): (readonly [string, Signature])[] => {
    const signature = of(pack);
    return signature === null ? [] : [[id, signature]];
  });
  return copies.flatMap(({ sha256, pack }) => {
    const signature = of(pack);
    const match = signature === null ? null : matchCopy(signature, known);
    return match === null ? [] : [{ sha256, parent: match.parent, correlation: match.correlation }];
  });
}

function of(pack: ArrayBuffer): Signature | null {
  const record = unpackRecord(new Uint8Array(pack));
  return record === null ? null : signatureOf(record.series);
}
