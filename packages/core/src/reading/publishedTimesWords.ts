// Another tester's time beside few runs of ours, in words.

import { formatHms } from "../format/index.ts";
import type { Differing, DirectedCause, FewRuns } from "./publishedTimes.ts";
import { causeWords } from "./words.ts";

/** Another tester's time beside few runs of ours. */
export function fewWords(f: FewRuns): string {
  switch (f.what) {
    case "nothing to hold it against":
      return "No run of yours counts here yet.";
    case "ours had not ended":
      return "No run of yours tells: each was cut before that, or its end is not known closely enough. So none contradicts it.";
    case "no difference":
      return "Your runs do not differ from it: nothing to explain.";
    case "theirs longer":
    case "theirs shorter":
      return differingWords(f);
  }
}

function differingWords(f: Differing): string {
  const longer = f.what === "theirs shorter";
  const list = (all: readonly DirectedCause[]): string =>
    all
      .map((c) => (c === "codec" ? c : c === "ambient" ? "the ambient" : c === "start heat" ? "the start state" : causeWords(c)))
      .join(", ");
  const time = `${f.atLeast ? "at least " : ""}${formatHms(f.ourSec * 1000)}`;
  // Runs cut before theirs are not in it: they may be shorter than the shortest, or longer than the longest, that tell.
  const ours = longer
    ? `No run of yours is known to have ended by heat so early: the shortest that tells lasted ${time}.`
    : `Longer than any run of yours that tells: of those that heat ended before it the longest lasted ${time}.`;
  const against =
    f.against.length === 0
      ? ""
      : ` Known and against it: ${list(f.against)}; ${f.against.length === 1 ? "it" : "they"} cannot be the reason.`;
  const could =
    f.could.length === 0
      ? ""
      : ` It could be: ${list(f.could)}; how much ${f.could.length === 1 ? "it does" : "they do"}, too few runs say.`;
  const ask = f.ask.length === 0 ? "" : ` Not said, ask for: ${list(f.ask)}.`;
  const none = f.could.length + f.ask.length === 0 ? " Nothing that was said explains it." : "";
  return ours + against + could + ask + none;
}
