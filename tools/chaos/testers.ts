// Simulated testers: they press what the state of a run, as their own device shows it, lets them press, on several runs at once.

import type { Random } from "@keep-rolling/core/statistics";
import type { Mark, StartBody } from "@keep-rolling/core/runs";
import { foldRun, liveCorrectionOf, redoTarget, undoTarget } from "@keep-rolling/core/runs";
import type { SessionFact } from "@keep-rolling/core/sessions";
import { v7 as uuidv7 } from "uuid";
import type { Device, Pressed } from "./device.ts";

const OPEN_RUNS = 4;
const MARKS_A_RUN = 60;
const ATTEMPTS = 8;
const SESSION_SHARE = 0.15;

export class Testers {
  readonly pressed = new Map<string, Pressed>();
  readonly runIds: string[] = [];
  readonly sessions: { id: string; device: Device }[] = [];
  private open: string[] = [];

  constructor(
    private readonly devices: readonly Device[],
    private readonly random: Random,
    private readonly setup: StartBody,
  ) {}

  /** One press by somebody, somewhere; who cannot press just now is passed over. */
  async press(): Promise<void> {
    const before = this.pressed.size;
    for (let i = 0; i < ATTEMPTS && this.pressed.size === before; i++) {
      const device = this.pick(this.devices);
      if (!device.awake) continue;
      if (this.random.next() < SESSION_SHARE) await this.sit(device);
      else if (this.open.length < OPEN_RUNS) await this.start(device);
      else await this.pressOn(device, this.pick(this.open));
    }
  }

  /** Begins a session, or notes something in one this device began. */
  private async sit(device: Device): Promise<void> {
    const known = this.sessions.filter((s) => s.device === device);
    const again = known.length > 0 && this.random.next() < 0.8 ? this.pick(known).id : null;
    const body = { sessionKind: "walk" as const, clockId: "real", place: "towpath", unitIds: [] };
    const pressed =
      again === null
        ? await device.sit(uuidv7(), "begin", body)
        : await device.sit(again, "note", { text: `step ${this.random.int(0, 99)} ünïcode 🌡` });
    if (pressed === null) return;
    this.pressed.set(pressed.mark.id, pressed);
    const { sessionId } = pressed.mark as SessionFact;
    if (again === null) this.sessions.push({ id: sessionId, device });
  }

  private async start(device: Device): Promise<void> {
    const runId = uuidv7();
    const pressed = await device.press(runId, "start", this.setup);
    if (pressed === null) return;
    this.note(pressed);
    this.runIds.push(runId);
    this.open.push(runId);
  }

  private async pressOn(device: Device, runId: string): Promise<void> {
    if (this.random.next() < 0.5) await device.look(runId);
    const marks = device.marksOf(runId);
    // A device that has not seen the start has no console of that run.
    if (!marks.some((m) => m.kind === "start")) return;
    const pressed = await this.draw(device, runId, marks);
    if (pressed === null) return;
    this.note(pressed);
    if (pressed.mark.kind === "end" || marks.length > MARKS_A_RUN) this.open = this.open.filter((id) => id !== runId);
  }

  private async draw(device: Device, runId: string, marks: readonly Mark[]): Promise<Pressed | null> {
    const fold = foldRun(marks);
    const deviceId = marks.find((m) => m.deviceId !== "")?.deviceId ?? "";
    const dice = this.random.int(0, 99);
    if (dice < 14)
      return fold.state === "gap" ? device.press(runId, "resume", {}) : device.press(runId, "gap", { cause: "card swap", power: "on" });
    if (dice < 34) return device.press(runId, "reading", { gauge: this.random.int(0, 9) });
    if (dice < 46) return device.press(runId, "touch", { feel: "warm" });
    if (dice < 58) return device.press(runId, "note", { text: `note ${dice} "quoted", ünïcode 🌡` });
    if (dice < 66) return device.press(runId, "warning", { phase: "shown" });
    if (dice < 80) return this.correct(device, runId, marks);
    if (dice < 92) return this.undo(device, runId, marks, deviceId);
    return device.press(runId, "end", { cause: this.random.next() < 0.7 ? "thermal shutdown" : "battery empty" });
  }

  /** Of any mark the device knows, its own or another's. */
  private async correct(device: Device, runId: string, marks: readonly Mark[]): Promise<Pressed | null> {
    const target = this.pick(marks.filter((m) => m.kind !== "undo"));
    const replaces = liveCorrectionOf(marks, target.id);
    return device.press(
      runId,
      "correction",
      { atMs: target.atMs - 5000 },
      { target: target.id, ...(replaces === undefined ? {} : { replaces }) },
    );
  }

  private async undo(device: Device, runId: string, marks: readonly Mark[], deviceId: string): Promise<Pressed | null> {
    const target = this.random.next() < 0.7 ? undoTarget(marks, deviceId) : redoTarget(marks, deviceId);
    return target === null || target.kind === "start" ? null : device.press(runId, "undo", {}, { target: target.id });
  }

  private note(pressed: Pressed): void {
    this.pressed.set(pressed.mark.id, pressed);
  }
  private pick<T>(items: readonly T[]): T {
    return items[this.random.int(0, items.length - 1)] as T;
  }
}
