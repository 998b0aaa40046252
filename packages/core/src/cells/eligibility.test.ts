import { describe, expect, it } from "vitest";
import { foldRun } from "../runs/index.ts";
import type { Mark } from "../runs/index.ts";
import { end, gap, mark, resume, start, START, undo, warning } from "../runs/testing/marks.ts";
import { ambientOutside, eligible } from "./eligibility.ts";
import { stateCell } from "./statement.ts";
import { answerSentence, evidenceWords, neededWords, statementSentence } from "./wording.ts";

const run = (runId: string, ...marks: Mark[]) => ({ runId, fold: foldRun(marks), struck: null });
const ambient = (valueC: number, plusMinusC: number) => foldRun([start(0, { ambient: { valueC, plusMinusC, basis: "measured" } }), end(9)]);

describe("ambient within the condition", () => {
  // The condition is 22 +- 2.
  it.each([
    [24, 0, false],
    [24.1, 0, true],
    [26.5, 0.5, true],
    [24.4, 0.5, false],
    [19.4, 0.5, true],
    [19.5, 0.5, false],
  ])("%d +- %d", (valueC, plusMinusC, outside) => expect(ambientOutside(ambient(valueC, plusMinusC))).toBe(outside));
});

describe("who may speak", () => {
  it("orders counted runs shortest first, ties by id, and never lists a run twice", () => {
    const { counted, leftOut } = eligible(
      [run("b", start(0), end(50)), run("c", start(0), end(40)), run("a", start(0), end(50)), run("v", ...voided())],
      "shutdown",
    );
    expect(counted.map((r) => r.runId)).toEqual(["c", "a", "b"]);
    expect(leftOut).toEqual([{ runId: "v", because: "void", wouldBe: null }]);
  });
  it("names a run of no length, and one still under way", () => {
    const { leftOut } = eligible([run("zero", start(5), end(5, "card full")), run("live", start(0))], "shutdown");
    expect(leftOut.map((r) => r.because)).toEqual(["nothing recorded", "not ended"]);
  });
  it("for the battery counts a heat shutdown as at least, and the other way round", () => {
    const runs = [run("a", start(0), end(50)), run("b", start(0), end(60, "battery empty"))];
    expect(eligible(runs, "shutdown").counted.map((r) => r.event)).toEqual([1, 0]);
    expect(eligible(runs, "batteryEmpty").counted.map((r) => r.event)).toEqual([0, 1]);
  });
  it("keeps apart what may have been heat from what was something else", () => {
    const maybe = (endpoint: "shutdown" | "batteryEmpty" | "firstWarning", ...marks: Mark[]) =>
      eligible([run("a", ...marks)], endpoint).counted[0]?.maybeByMs;
    expect(maybe("shutdown", start(0), end(50, "unknown"))).toBe(50_000);
    expect(eligible([run("a", start(0), end(50, "unknown"))], "shutdown").counted[0]?.because).toBe("end not said");
    expect(maybe("batteryEmpty", start(0), end(50, "unknown"))).toBe(50_000);
    expect(maybe("firstWarning", start(0), end(50, "unknown"))).toBeNull();
    expect(maybe("shutdown", start(0), end(50, "card full"))).toBeNull();
    expect(maybe("shutdown", start(0), end(50))).toBeNull();
    const hot = mark("end", 50, { cause: "tester stopped", becauseHot: true });
    expect(maybe("shutdown", start(0), hot)).toBe(50_000);
    expect(maybe("batteryEmpty", start(0), hot)).toBeNull();
    // Broken by a gap: by then at the latest, though the run itself counts to the gap alone.
    expect(eligible([run("g", start(0), gap(20, "off"), resume(30), end(90, "unknown"))], "shutdown").counted).toMatchObject([
      { event: 0, timeMs: { lo: 20_000 }, noLaterMs: null, maybeByMs: 80_000 },
    ]);
  });
  it("to the first warning stops at the warning even if a gap breaks the run later", () => {
    const broken = run("a", start(0), warning(30), gap(40, "off"), resume(45), end(90));
    expect(eligible([broken], "firstWarning").counted).toMatchObject([{ timeMs: { lo: 30_000 }, event: 1 }]);
    expect(eligible([broken], "shutdown").counted).toMatchObject([
      { timeMs: { lo: 40_000 }, event: 0, because: "broken by a powered-off gap" },
    ]);
    const late = run("b", start(0), gap(20, "off"), resume(25), warning(30), end(90));
    expect(eligible([late], "firstWarning").counted).toMatchObject([{ timeMs: { lo: 20_000 }, event: 0 }]);
  });
  it("to the first warning is no run of which nobody recorded whether it came: it says nothing, not even at least", () => {
    const typed = { ...start(0), source: "late" } as Mark;
    const [silent, said] = [run("a", typed, end(90)), run("b", typed, warning(30), end(90))];
    const { counted, leftOut } = eligible([silent, said], "firstWarning");
    expect(counted).toMatchObject([{ runId: "b", timeMs: { lo: 30_000 }, event: 1 }]);
    expect(leftOut).toEqual([{ runId: "a", because: "whether it warned is not recorded", wouldBe: null }]);
    // Nor where something else leaves it out: with a start state it would still have no time.
    const unsaid = { ...typed, body: { ...(typed.body as object), startState: { state: "unknown", by: "" } } } as unknown as Mark;
    expect(eligible([run("d", unsaid, end(90))], "firstWarning").leftOut).toEqual([
      { runId: "d", because: "start state not known", wouldBe: null },
    ]);
    expect(eligible([run("d", unsaid, end(90))], "shutdown").leftOut).toMatchObject([
      { because: "start state not known", wouldBe: { event: 1 } },
    ]);
    // Of what ended it nothing is in doubt.
    expect(eligible([silent, said], "shutdown").counted).toHaveLength(2);
    // A device told of one that nobody marked.
    const watched = run("c", start(0), end(90));
    expect(eligible([{ ...watched, warningUnmarked: true }], "firstWarning").counted).toEqual([]);
    expect(eligible([{ ...watched, warningUnmarked: false }], "firstWarning").counted).toMatchObject([{ event: 0 }]);
    expect(stateCell([silent], "firstWarning").statement).toMatchObject({ ok: false, reason: "no-eligible-run" });
  });
});

function voided(): Mark[] {
  const s = start(0);
  return [s, undo(s, 5)];
}

describe("the words of a statement", () => {
  const say = (...runs: ReturnType<typeof run>[]) => stateCell(runs, "shutdown").statement;
  it("from one run: an anecdote in numbers", () => {
    const one = say(run("a", start(0), end(3000)));
    expect(one.ok && statementSentence(one)).toBe("1 run 0:50:00: at least 10 % of runs last longer, 90 % sure");
    expect(answerSentence(one)).toBe("at least 0:50:00 in 1 of 10 runs");
    expect(one.ok && evidenceWords(one)).toBe("1 cold run, 1 ended by heat");
  });
  it("from none: nothing, and what it takes", () => {
    expect(answerSentence(say())).toBe("No run counts here yet.");
    expect(neededWords(say())).toBe("Claiming 9 of 10 runs, 90 % sure, would need 22 runs.");
  });
  it("from enough: supported, and not a run earlier", () => {
    const runs = (n: number) => Array.from({ length: n }, (_, i) => run(`r${String(i).padStart(2, "0")}`, start(0), end(3000 + i)));
    expect(neededWords(say(...runs(22)))).toBe("The 22 runs support 90 % of runs, 90 % sure.");
    expect(neededWords(say(...runs(21)))).toContain("1 more, none shorter");
    const all = say(...runs(22));
    expect(all).toMatchObject({ share: 0.9, confidenceAtShare: 0.9, missing: 0 });
  });
  it("never rounds up: a limit of 49:59.999 is 0:49:59", () => {
    const marks = [start(0), mark("end", 2999.999, { cause: "thermal shutdown" })];
    expect(answerSentence(say(run("a", ...marks)))).toContain("0:49:59");
    expect(START.condition.toleranceC).toBe(2);
  });
  it("of a run that heat ended after a gap: never that nothing ended by heat", () => {
    const { statement } = stateCell([run("g", start(0), gap(600, "off"), resume(660), end(1260))], "shutdown");
    expect(answerSentence(statement)).toBe("at least 0:10:00; 1 ended by heat after a gap");
    expect(statement.ok && evidenceWords(statement)).toBe("1 cold run, 1 ended by heat after a gap");
    const cut = stateCell([run("c", start(0), gap(600, "off"), resume(660), end(1260, "card full"))], "shutdown").statement;
    expect(answerSentence(cut)).toBe("at least 0:10:00; nothing ended by heat");
  });
  it("of runs whose end nobody said: never that it was not the end asked for", () => {
    const { statement } = stateCell([run("a", start(0), end(600, "unknown"))], "shutdown");
    expect(answerSentence(statement)).toBe("at least 0:10:00; no end by heat is known");
    expect(statement.ok && evidenceWords(statement)).toBe("1 cold run, no end by heat is known");
    const battery = stateCell([run("a", start(0), end(600, "unknown")), run("b", start(0), end(700))], "batteryEmpty").statement;
    expect(answerSentence(battery)).toBe("at least 0:10:00; no empty battery is known");
    expect(answerSentence(stateCell([run("b", start(0), end(700))], "batteryEmpty").statement)).toBe(
      "at least 0:11:40; no battery ran empty",
    );
  });
  it("to the first warning, when none was shown", () => {
    const { statement } = stateCell([run("a", start(0), end(600, "card full"))], "firstWarning");
    expect(answerSentence(statement)).toBe("at least 0:10:00; no warning was shown");
  });
});
