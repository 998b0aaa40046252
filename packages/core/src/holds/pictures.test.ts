import { describe, expect, it } from "vitest";
import { matchToCard, matchToPlan } from "./cardMatch.ts";
import type { PictureBody } from "./pictures.ts";
import { inOrderTaken } from "./pictures.ts";
import type { HoldPlan } from "./plan.ts";
import { USUALLY } from "./plan.ts";
import { seenInPictures, seenUsually } from "./reading.ts";
import { holdOf } from "./session.ts";
import { gradesAgreement } from "./uses.ts";

const PLAN = {
  ...USUALLY,
  lensName: "Reed",
  focalMm: 30,
  spans: { off: { fastest: -6, slowest: -5 }, on: { fastest: -5, slowest: -4 } },
  stepStops: 1,
  shotsEach: 2,
  judged: "from pictures",
} as unknown as HoldPlan;
let made = 0;
const fact = (kind: string, body: object, more: object = {}) =>
  ({ id: `f${++made}`, kind, body, atMs: made, ...more }) as unknown as Parameters<typeof holdOf>[0]["effective"][number];
const picture = (n: number, sec: number, more: Partial<PictureBody> = {}) =>
  fact("picture", {
    sha256: `hash${n}`,
    name: `P${n}.JPG`,
    camera: "Tern",
    exposureSec: sec,
    takenAt: `2031-06-14T10:00:${String(n % 60).padStart(2, "0")}`,
    focalMm: 30,
    widthPx: 1200,
    heightPx: 800,
    setting: null,
    settingBy: null,
    cuts: [],
    counted: null,
    ...more,
  });
const shot = (setting: "off" | "on", x: number, grade = "taken") => fact("shot", { setting, x, grade });
const grade = (target: string, by: string, sharpness: string) => fact("sharpness", { by, sharpness, blind: true }, { target });

describe("pictures", () => {
  it("lie at their place on the camera's dial, in the order they were taken; the same file twice is one", () => {
    const hold = holdOf({
      effective: [fact("holdPlan", { hold: PLAN }), picture(2, 1 / 60), picture(1, 1 / 30), picture(1, 1 / 30)],
    });
    expect(hold.pictures.map((p) => [p.name, p.x])).toEqual([
      ["P1.JPG", -5],
      ["P2.JPG", -6],
    ]);
  });
  it("without a clock keep the order in which the card numbers them", () => {
    const names = ["P10.JPG", "P9.JPG"].map((name) => ({ name, takenAt: null }));
    expect(inOrderTaken(names).map((p) => p.name)).toEqual(["P9.JPG", "P10.JPG"]);
  });
  it("that do not fit are named and not counted, until someone says so", () => {
    const odd = [
      picture(1, 1 / 60),
      picture(2, 1 / 60),
      picture(3, 1 / 60, { camera: "Plover" }),
      picture(4, 1 / 60, { focalMm: 55 }),
      picture(5, 1 / 60, { takenAt: "2031-06-15T10:00:00" }),
      picture(6, 1 / 1000),
      picture(7, 1 / 1000, { counted: true }),
      picture(8, 1 / 60, { counted: false }),
    ];
    const { pictures } = holdOf({ effective: [fact("holdPlan", { hold: PLAN }), ...odd] });
    const told = new Map(pictures.map((p) => [p.name, [p.misfit, p.counts]]));
    expect(told.get("P1.JPG")).toEqual([null, true]);
    expect(told.get("P3.JPG")).toEqual(["another-camera", false]);
    expect(told.get("P4.JPG")).toEqual(["another-focal-length", false]);
    expect(told.get("P5.JPG")).toEqual(["another-day", false]);
    expect(told.get("P6.JPG")).toEqual(["unplanned-time", false]);
    expect(told.get("P7.JPG")).toEqual(["unplanned-time", true]);
    expect(told.get("P8.JPG")).toEqual([null, false]);
  });
  it("that do not say their camera wait for a word where others say it, however many they are, and fit where none does", () => {
    const misfits = (...cameras: string[]) =>
      holdOf({
        effective: [fact("holdPlan", { hold: PLAN }), ...cameras.map((camera, i) => picture(i + 1, 1 / 60, { camera }))],
      }).pictures.map((p) => [p.misfit, p.counts]);
    const [fits, waits] = [
      [null, true],
      ["camera-not-said", false],
    ];
    expect(misfits("", "", "Tern", "")).toEqual([waits, waits, fits, waits]);
    expect(misfits("", "")).toEqual([fits, fits]);
  });
  it("that were told to count are looked for on the card too", () => {
    const card = [shot("off", -6), shot("on", -6)];
    const taken = [picture(1, 1 / 60), picture(2, 1 / 60, { camera: "", counted: true })];
    const { pictures, unequal } = holdOf({ effective: [fact("holdPlan", { hold: PLAN }), ...card, ...taken] });
    expect(pictures.map((p) => p.setting)).toEqual(["off", "on"]);
    expect(unequal).toEqual([]);
  });
  it("of two bodies of one model are told apart by how their files are named, names given by hand by nothing", () => {
    const named = (n: number, name: string) => picture(n, 1 / 60, { name });
    const misfits = (...names: string[]) =>
      holdOf({ effective: [fact("holdPlan", { hold: PLAN }), ...names.map((name, i) => named(i + 1, name))] }).pictures.map(
        (p) => p.misfit,
      );
    const two = misfits("TRN_1001.JPG", "TRN_1002.JPG", "trn_1003.jpg", "TRN_1004.JPG", "PLV1001.JPG", "PLV1002.JPG", "PLV1003.JPG");
    expect(two.filter((m) => m === null)).toHaveLength(4);
    expect(two.filter((m) => m === "other-file-names")).toHaveLength(3);
    expect(misfits("TRN_9998.JPG", "TRN_9999.JPG", "TRP_0001.JPG").every((m) => m === null)).toBe(true);
    expect(misfits("good.JPG", "better one.JPG", "best.JPG", "last.JPG").every((m) => m === null)).toBe(true);
  });
  it("take their setting from the card, time by time, and its bad tries with it", () => {
    const card = [shot("off", -6), shot("off", -6, "bad"), shot("off", -6), shot("on", -5), shot("off", -5), shot("on", -5)];
    const taken = [picture(1, 1 / 60), picture(2, 1 / 60), picture(3, 1 / 60), picture(4, 1 / 30), picture(5, 1 / 30), picture(6, 1 / 30)];
    const { pictures, unequal } = holdOf({ effective: [fact("holdPlan", { hold: PLAN }), ...card, ...taken] });
    expect(pictures.map((p) => p.setting)).toEqual(["off", "off", "off", "on", "off", "on"]);
    expect(pictures.map((p) => p.counts)).toEqual([true, false, true, true, true, true]);
    expect(pictures[1]?.misfit).toBe("bad-try");
    expect(unequal).toEqual([]);
  });
  it("conclude nothing from the card where both differ in number, unless only one setting was shot there", () => {
    const card = [
      { setting: "off", x: -6, grade: "taken" },
      ...(["on", "off"] as const).map((setting) => ({ setting, x: -5, grade: "taken" })),
    ] as Parameters<typeof matchToCard>[1];
    const { settings, unequal } = matchToCard([-6, -6, -5, -7], card);
    expect(settings).toEqual([{ setting: "off", bad: false }, { setting: "off", bad: false }, null, null]);
    expect(unequal).toEqual([
      { x: -7, card: 0, pictures: 1 },
      { x: -6, card: 1, pictures: 2 },
      { x: -5, card: 2, pictures: 1 },
    ]);
    // The plan's order: off and on at 1/30 change places.
    expect(matchToPlan([-6, -6, -5, -5, -4, -4, -5, -5], PLAN).settings.map((m) => m?.setting)).toEqual([
      "off",
      "off",
      "on",
      "on",
      "on",
      "on",
      "off",
      "off",
    ]);
  });
});

describe("grades", () => {
  const taken = Array.from({ length: 4 }, (_, n) => picture(n + 1, 1 / 60, { setting: "off", settingBy: "hand" }));
  const graded = (by: string, ...of: string[]) => of.map((g, i) => grade(taken[i]?.id ?? "", by, g));
  const held = (...more: ReturnType<typeof fact>[]) => holdOf({ effective: [fact("holdPlan", { hold: PLAN }), ...taken, ...more] });
  it("count as kept by what the picture is for; a judge's last word counts, however the initials are typed", () => {
    const hold = held(...graded("kd", "sharp", "usable", "soft", "lost"), grade(taken[0]?.id ?? "", "KD ", "usable"));
    const kept = (use: "print" | "half size" | "screen") => seenInPictures(PLAN, hold, "KD", use).shots.map((s) => s.grade);
    expect(kept("print")).toEqual(["lost", "lost", "lost", "lost"]);
    expect(kept("half size")).toEqual(["kept", "kept", "lost", "lost"]);
    expect(kept("screen")).toEqual(["kept", "kept", "kept", "lost"]);
    expect(hold.judges).toEqual([{ by: "KD", graded: 4, left: 0 }]);
  });
  it("are read once a judge has gone through all, and until then what was said at once is", () => {
    const some = held(...graded("KD", "sharp", "sharp"), shot("off", -6, "kept"));
    expect(seenUsually(PLAN, some)).toMatchObject({ by: null, shots: { length: 1 } });
    const all = held(...graded("KD", "sharp", "sharp", "sharp", "lost"), shot("off", -6, "kept"));
    expect(seenUsually(PLAN, all)).toMatchObject({ by: "KD", use: "half size", shots: { length: 4 } });
  });
  it("count those given in view of time and setting, and pictures nobody said off or on of", () => {
    const silent = [picture(11, 1 / 60), picture(12, 1 / 30)];
    const all = graded("KD", "sharp", "sharp", "sharp", "lost");
    const more = [...silent, ...silent.map((p) => grade(p.id, "KD", "soft"))];
    expect(seenUsually(PLAN, held(...all))).toMatchObject({ by: "KD", unsaid: 0, inView: 0 });
    expect(seenUsually(PLAN, held(...more, ...all))).toMatchObject({ by: "KD", unsaid: 2, inView: 0, shots: { length: 4 } });
    // Of a change the last word counts; another judge's is not this one's.
    const changed = { by: "KD", sharpness: "sharp", blind: false };
    const inView = fact("sharpness", changed, { target: taken[3]?.id });
    const others = fact("sharpness", { ...changed, by: "RB" }, { target: taken[0]?.id });
    expect(seenUsually(PLAN, held(...all, inView, others))).toMatchObject({ by: "KD", unsaid: 0, inView: 1 });
  });
  it("hold everything back when what is kept was chosen after they were known, not before", () => {
    const change = (): ReturnType<typeof fact> => fact("keptFrom", { keptFrom: { print: "sharp", "half size": "sharp", screen: "soft" } });
    const before = change();
    const grades = graded("KD", "sharp", "usable", "soft", "lost");
    const late = held(...grades, change());
    expect(held(before, ...grades).keptLate).toBe(false);
    expect(late.keptLate).toBe(true);
    const whole = { ...PLAN, spans: { off: { fastest: -6, slowest: -6 }, on: null }, shotsEach: 4 };
    expect(seenInPictures(whole, held(before, ...grades), "KD", "print").heldBack).toBeNull();
    expect(seenInPictures(whole, late, "KD", "half size").heldBack).toBe("kept-changed");
  });
  it("of two judges agree as Cohen's kappa says", () => {
    const { pictures } = held(...graded("KD", "sharp", "sharp", "lost", "lost"), ...graded("RB", "sharp", "lost", "lost", "lost"));
    // 3 of 4 alike; by chance .5*.25 + .5*.75 = .5: kappa .5 (Cohen 1960, worked by hand).
    const found = gradesAgreement(pictures, ["KD", "RB"], "usable");
    expect(found).toMatchObject({ pictures: 4, alike: 0.75 });
    expect(found?.keptKappa).toBeCloseTo(0.5, 12);
    // Both said one thing of all: alike, and chance would do as well.
    const same = held(...graded("KD", "sharp", "sharp", "sharp", "sharp"), ...graded("RB", "sharp", "sharp", "sharp", "sharp"));
    expect(gradesAgreement(same.pictures, ["KD", "RB"], "usable")).toMatchObject({ alike: 1, kappa: null, keptKappa: null });
    expect(gradesAgreement(pictures, ["KD", "XX"], "usable")).toBeNull();
  });
});
