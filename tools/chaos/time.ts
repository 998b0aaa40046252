export const sleep = (ms: number): Promise<void> => new Promise((done) => setTimeout(done, ms));

/** A device's two clocks: the wall clock may be off, drift and be set; the monotonic one drifts alike and stands still in sleep. */
export class DeviceClocks {
  private ppm = 0;
  private wallBase: number;
  private steadyBase = 1000;
  private realBase = performance.now();
  private asleepSince: number | null = null;

  constructor(offMs: number) {
    this.wallBase = Date.now() + offMs;
  }
  wallMs = (): number => Math.round(this.wallBase + this.ran());
  steadyMs = (): number => this.steadyBase + (this.asleepSince === null ? this.ran() : this.ran(this.asleepSince));
  set(byMs: number): void {
    this.wallBase += byMs;
  }
  drift(ppm: number): void {
    this.rebase();
    this.ppm = ppm;
  }
  sleep(): void {
    this.rebase();
    this.asleepSince = this.realBase;
  }
  wake(): void {
    this.rebase();
    this.asleepSince = null;
  }
  private ran(until = performance.now()): number {
    return (until - this.realBase) * (1 + this.ppm / 1e6);
  }
  private rebase(): void {
    const now = performance.now();
    [this.wallBase, this.steadyBase] = [
      this.wallBase + this.ran(now),
      this.asleepSince === null ? this.steadyBase + this.ran(now) : this.steadyBase,
    ];
    this.realBase = now;
  }
}
