import { replaced } from "../../facts/index.ts";
import type { MarkKind } from "./markKind.ts";
import { remark } from "./markKind.ts";

export interface PhotoBody {
  sha256?: string | undefined;
  caption?: string | undefined;
}

export const photo: MarkKind<PhotoBody, PhotoBody> = {
  ...remark(),
  corrects: {
    sha256: replaced("sha256", () => "a picture"),
    caption: replaced("caption", (caption) => caption),
  },
  words: ({ caption }) => (caption === undefined || caption === "" ? "photo" : `photo: ${caption}`),
  odd: ({ body }) => (body.sha256 === undefined ? ["picture-missing"] : []),
  sample: () => ({}),
};
