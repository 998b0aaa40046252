// A simulated device: the application's own outbox, storage, sender and clock keeper, on clocks and a network that fail. One storage,
// one or more windows, as in a browser.

import "fake-indexeddb/auto";
import { IDBFactory } from "fake-indexeddb";
import type { StoredMark } from "@keep-rolling/contract/marks";
import { marksAfterReply } from "@keep-rolling/contract/runs";
import { timeReply } from "@keep-rolling/contract/clocks";
import type { KnownKind, Mark, MarkBodies } from "@keep-rolling/core/runs";
import { MARK_VERSION } from "@keep-rolling/core/runs";
import type { SessionBodies, SessionFactKind } from "@keep-rolling/core/sessions";
import { SESSION_VERSION } from "@keep-rolling/core/sessions";
import { v7 as uuidv7 } from "uuid";
import type { ClockKeeper } from "../../apps/web/src/record/clockKeeper.ts";
import { clockKeeper } from "../../apps/web/src/record/clockKeeper.ts";
import { forgetFinished } from "../../apps/web/src/record/forget.ts";
import type { DeviceFact, Draft, Outbox, Storage } from "../../apps/web/src/record/outbox.ts";
import { openOutbox } from "../../apps/web/src/record/outbox.ts";
import { startSender } from "../../apps/web/src/record/sender.ts";
import { deviceStorage } from "../../apps/web/src/record/storage.ts";
import { Network } from "./network.ts";
import { DeviceClocks, sleep } from "./time.ts";

interface Window {
  box: Outbox;
  keeper: ClockKeeper;
  /** Cleared when the window is closed: what was under way comes to nothing. */
  open: boolean;
  wake: () => void;
}

/** What was pressed, and between which moments it truly was. */
export interface Pressed {
  mark: DeviceFact;
  trueMs: { from: number; to: number };
}

export class Device {
  readonly network: Network;
  readonly clocks: DeviceClocks;
  readonly known = new Map<string, StoredMark[]>();
  private readonly factory = new IDBFactory();
  private windows: Window[] = [];
  private asleep = false;
  private fullUntil = 0;
  private slowUntil = 0;
  /** Presses that the store has not answered yet. */
  private beingKept = 0;

  constructor(
    readonly name: string,
    url: string,
    offMs: number,
  ) {
    this.network = new Network(url);
    this.clocks = new DeviceClocks(offMs);
  }

  get awake(): boolean {
    return !this.asleep && this.windows.length > 0;
  }
  /** Marks that are only in memory: the screen says so loudly, and a reload would lose them. */
  get unkept(): boolean {
    return this.beingKept > 0 || this.windows.some((w) => w.box.state().notKept !== null || w.box.state().keeping > 0);
  }
  get waiting(): number {
    return Math.max(0, ...this.windows.map((w) => w.box.state().waiting));
  }
  /** Why what waits waits, for the report. */
  get waitingFor(): string {
    const entries = this.windows.flatMap((w) => w.box.state().entries.filter((e) => e.delivery === "waiting"));
    return entries.map((e) => `${e.mark.kind} ${e.mark.id} number ${e.mark.deviceSeq} naming ${e.mark.target ?? "nothing"}`).join("; ");
  }
  get setAside(): number {
    return Math.max(0, ...this.windows.map((w) => w.box.state().setAside));
  }

  async openWindow(): Promise<void> {
    const storage = await this.storage();
    const window: Window = {
      // Patience with the store is a tenth of the application's, like the pauses.
      box: await openOutbox(
        storage,
        () => window.wake(),
        (ms) => sleep(ms / 10),
      ),
      keeper: this.keeper(),
      open: true,
      wake: () => undefined,
    };
    const never = new Promise<never>(() => undefined);
    const sender = startSender({
      outbox: () => window.box,
      offsetMs: () => window.keeper.offset().offsetMs,
      nowMs: this.clocks.wallMs,
      fetch: async (...args) => {
        if (!window.open) return never;
        const reply = await this.network.fetch(...args);
        return window.open ? reply : never;
      },
      // Windows send by themselves, as where the browser has no locks: the harder case.
      alone: (send) => send(),
      pause: async (ms, bell) => {
        if (!window.open) return never;
        // Pauses are a tenth of the application's, so that a thousand faults fit into minutes.
        await Promise.race([bell, Number.isFinite(ms) ? sleep(ms / 10) : never]);
        while (this.asleep) await sleep(20);
      },
      onOnline: (online) => {
        if (online) void window.keeper.compare();
      },
    });
    window.wake = () => sender.wake();
    window.box.subscribe(() => this.tellOthers(window));
    this.windows.push(window);
    await forgetFinished(window.box);
    void window.keeper.compare();
  }

  closeWindow(index: number): void {
    const [window] = this.windows.splice(index % Math.max(1, this.windows.length), 1);
    if (window !== undefined) window.open = false;
  }
  get windowCount(): number {
    return this.windows.length;
  }

  /** What every window does each second or few: store what could not be, and when wall and monotonic clock have come apart, compare. */
  beat(): void {
    if (!this.awake) return;
    for (const w of this.windows) {
      if (w.keeper.parted()) void w.keeper.compare();
      void w.box.rescue().catch(() => undefined);
    }
  }
  async compare(): Promise<void> {
    await Promise.all(this.windows.map((w) => w.keeper.compare()));
  }

  /** Somebody sets the clock; one that sleeps is set when it wakes. */
  setClock(byMs: number): void {
    if (this.asleep) return;
    this.clocks.set(byMs);
    this.beat();
  }

  async sleepFor(ms: number): Promise<void> {
    if (this.asleep) return;
    this.beat();
    this.asleep = true;
    this.clocks.sleep();
    await sleep(ms);
    this.clocks.wake();
    this.asleep = false;
    this.beat();
  }

  fullFor(ms: number): void {
    this.fullUntil = Date.now() + ms;
  }
  slowFor(ms: number): void {
    this.slowUntil = Date.now() + ms;
  }

  /** Null while nobody can press: asleep, or no window open. */
  press<K extends KnownKind>(runId: string, kind: K, body: MarkBodies[K], more: Partial<Mark> = {}): Promise<Pressed | null> {
    return this.keep({ runId, kind, v: MARK_VERSION, body, ...more });
  }
  sit<K extends SessionFactKind>(sessionId: string, kind: K, body: SessionBodies[K]): Promise<Pressed | null> {
    return this.keep({ sessionId, kind, v: SESSION_VERSION, body });
  }

  private async keep(of: object): Promise<Pressed | null> {
    const window = this.windows[Math.floor(Math.abs(this.clocks.wallMs() / 7)) % Math.max(1, this.windows.length)];
    if (window === undefined || !this.awake) return null;
    const from = Date.now();
    const deviceMs = this.clocks.wallMs();
    const { offsetMs, errMs } = window.keeper.offset();
    const to = Date.now();
    const atMs = deviceMs + offsetMs;
    const times = { atMs, madeAtMs: atMs, source: "pressed" as const, deviceMs, offsetMs, offsetErrMs: errMs };
    // What it belongs to and its body were typed by who asked.
    const [mark] = await window.box.press([{ id: uuidv7(), ...times, ...of } as Draft]);
    return mark === undefined ? null : { mark, trueMs: { from, to } };
  }

  /** A run as this device sees it: what it read from the server, joined with what it pressed. */
  marksOf(runId: string): Mark[] {
    const read = (this.known.get(runId) ?? []).map((s) => s.mark);
    const ids = new Set(read.map((m) => m.id));
    const entries = this.windows[0]?.box.state().entries ?? [];
    const own = entries.flatMap(({ mark, delivery }) =>
      "runId" in mark && mark.runId === runId && delivery !== "set aside" ? [mark] : [],
    );
    return [...read, ...own.filter((m) => !ids.has(m.id))];
  }

  /** Reads what is new of a run; nothing when the way is not open. */
  async look(runId: string): Promise<boolean> {
    const have = this.known.get(runId) ?? [];
    try {
      const reply = await this.network.fetch(`/api/runs/${runId}/marks?after=${have.at(-1)?.seq ?? 0}`);
      if (!reply.ok) return false;
      const { marks } = marksAfterReply.parse(await reply.json());
      const now = this.known.get(runId) ?? [];
      this.known.set(runId, [...now, ...marks.filter((m) => m.seq > (now.at(-1)?.seq ?? 0))]);
      return true;
    } catch {
      return false;
    }
  }

  wake(): void {
    for (const w of this.windows) w.wake();
  }

  private keeper(): ClockKeeper {
    return clockKeeper({
      wallMs: this.clocks.wallMs,
      steadyMs: this.clocks.steadyMs,
      askServerMs: async () => timeReply.parse(await (await this.network.fetch("/api/time")).json()).serverMs,
    });
  }

  private async storage(): Promise<Storage> {
    // The browser's storage is per device here; the database is opened at once, so the global may be another device's later.
    globalThis.indexedDB = this.factory;
    const storage = await deviceStorage();
    return {
      ...storage,
      keep: async (drafts, unkept) => {
        this.beingKept++;
        try {
          while (Date.now() < this.slowUntil) await sleep(20);
          if (Date.now() < this.fullUntil) throw new DOMException("no room", "QuotaExceededError");
          return await storage.keep(drafts, unkept);
        } finally {
          this.beingKept--;
        }
      },
    };
  }

  private tellOthers(from: Window): void {
    for (const w of this.windows) if (w !== from && !this.telling) void this.reloadQuietly(w);
  }
  private telling = false;
  private async reloadQuietly(window: Window): Promise<void> {
    this.telling = true;
    await window.box.reload().finally(() => (this.telling = false));
  }
}
