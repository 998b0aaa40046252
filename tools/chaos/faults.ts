// Draws faults: most are cheap, about one in fifty kills a process.

import type { Random } from "@keep-rolling/core/statistics";
import type { TestServer } from "../launch.ts";
import type { Device } from "./device.ts";
import { NETWORK_FAULTS } from "./network.ts";
import { sleep } from "./time.ts";

const KILL_EVERY = 50;
const KILLS = ["server killed", "database killed", "both killed"] as const;
const CHEAP = [
  ...NETWORK_FAULTS,
  "out of reach",
  "clock set",
  "clock drifts",
  "asleep",
  "reload",
  "second window",
  "window closed",
  "storage full",
  "storage slow",
] as const;
type Cheap = (typeof CHEAP)[number];
export type Fault = Cheap | (typeof KILLS)[number];

export class Faults {
  readonly counts = new Map<Fault, number>();
  private n = 0;
  private revival: Promise<void> = Promise.resolve();

  constructor(
    private readonly devices: readonly Device[],
    private readonly server: TestServer,
    private readonly random: Random,
  ) {}

  async next(): Promise<Fault> {
    this.n++;
    const fault = this.n % KILL_EVERY === KILL_EVERY / 2 ? this.pick(KILLS) : this.pick(CHEAP);
    this.counts.set(fault, (this.counts.get(fault) ?? 0) + 1);
    if (fault === "server killed" || fault === "database killed" || fault === "both killed") await this.kill(fault);
    else await this.meet(fault, this.pick(this.devices));
    return fault;
  }

  /** Waits until every process lives again. */
  over(): Promise<void> {
    return this.revival;
  }

  private async kill(fault: (typeof KILLS)[number]): Promise<void> {
    await this.revival;
    if (fault !== "server killed") await this.server.killDatabase().catch(() => undefined);
    if (fault === "database killed") return;
    await this.server.kill();
    // The testers go on pressing meanwhile.
    this.revival = sleep(this.random.int(0, 800)).then(() => this.server.start());
  }

  private async meet(fault: Cheap, device: Device): Promise<void> {
    switch (fault) {
      case "out of reach":
        return device.network.offline(this.random.int(50, 900));
      case "clock set":
        return device.setClock(this.random.int(-600_000, 600_000));
      case "clock drifts":
        return device.clocks.drift(this.random.int(-150, 150));
      case "asleep":
        return void device.sleepFor(this.random.int(50, 400));
      case "storage full":
        return device.fullFor(this.random.int(50, 400));
      case "storage slow":
        return device.slowFor(this.random.int(50, 900));
      case "second window":
        if (device.windowCount < 3) await device.openWindow();
        return;
      case "window closed":
        if (device.windowCount > 1 && !device.unkept) device.closeWindow(this.random.int(0, 5));
        return;
      case "reload":
        if (device.unkept) return;
        device.closeWindow(this.random.int(0, 5));
        return device.openWindow();
      case "request lost":
      case "answer lost":
      case "sent twice":
      case "late repeat":
      case "slow":
        return device.network.fault(fault, this.random.int(20, 900));
    }
  }

  private pick<T>(items: readonly T[]): T {
    return items[this.random.int(0, items.length - 1)] as T;
  }
}
