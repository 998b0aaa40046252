// What is said of pictures brought in.

import type { CardMatch, HoldPicture, Misfit } from "@keep-rolling/core/holds";
import { dialWords } from "../words.ts";
import type { Item } from "./queue.ts";

const PROBLEMS: Readonly<Record<NonNullable<Item["problem"]>, string>> = {
  "no-picture": "This is no picture that is known here.",
  "cut-off": "It ends too soon: copy it from its card again.",
  unreadable: "It could not be drawn: copy it from its card again.",
  "no-exif": "It does not say how it was taken: bring in the file as the camera wrote it.",
  "no-exposure-time": "It does not say its exposure time: bring in the file as the camera wrote it.",
  "raw-without-picture": "A raw file without a picture inside: bring in a JPEG of it.",
  heic: "This browser cannot draw HEIC pictures: bring in JPEG copies that keep their data.",
  "odd-time": "Its exposure time is shorter than 1/65,000 s or longer than an hour: no hands are tested there.",
  gone: "It cannot be read any more. Was its card taken out? Put it back and drop it again.",
  "not-kept": "It could not be kept on this device: is its storage full? Make room and drop it again.",
};
export const problemWords = (p: NonNullable<Item["problem"]>): string => PROBLEMS[p];

export const stageWords = (stage: Item["stage"]): string =>
  stage === "at hand again"
    ? "known already; another spot of it can be cut now"
    : stage === "here already"
      ? "the same picture twice"
      : stage;

const MISFITS: Readonly<Record<Misfit, string>> = {
  "another-focal-length": "another focal length",
  "another-camera": "from another camera than those that count",
  "camera-not-said": "the picture does not say its camera, as others here do",
  "other-file-names": "its file is named unlike those that count: another body of this model?",
  "another-day": "more than half a day from the others: another session, or a wrong clock",
  "unplanned-time": "not one of the planned times",
  "bad-try": "a bad try, says the card",
};
export const misfitWords = (m: Misfit): string => MISFITS[m];

const SOURCES = { picture: "the picture says so", card: "by the card", order: "by the plan's order", hand: "by hand" } as const;
export const sourceWords = ({ settingBy }: Pick<HoldPicture, "settingBy">): string => (settingBy === null ? "" : SOURCES[settingBy]);

/** Most first: where many differ the cause is one. */
export function unequalWords(unequal: CardMatch["unequal"]): string[] {
  if (unequal.length === 0) return [];
  const each = unequal.map((u) => `${dialWords(u.x)} s: ${u.card} on the card, ${u.pictures} ${u.pictures === 1 ? "picture" : "pictures"}`);
  return [`Card and pictures differ in number, so nothing is concluded from the card there (${each.join("; ")}).`];
}

/** @param found of all pictures: with this spot before, cut now, and with their original at hand */
export function cutWords({ all, before, cutNow, atHand }: { all: number; before: number; cutNow: number; atHand: number }): string {
  if (before === all) return "This spot is kept of all of them already.";
  if (cutNow === 0)
    return atHand === 0
      ? "No original is at hand: drop the pictures again, then cut."
      : "It could not be cut: was their card taken out? Put it back, drop them again, then cut.";
  const left = all - before - cutNow;
  const rest = left > 0 ? ` Of ${left} more the original is not at hand: drop ${left === 1 ? "it" : "them"} again, then cut.` : "";
  return `Cut of ${cutNow} ${cutNow === 1 ? "picture" : "pictures"}: choose it on the table of shots.${rest}`;
}
