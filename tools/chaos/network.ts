// The way between a device and the server, with the faults a test day brings: a request or its answer is lost, arrives twice, arrives
// again when everything has moved on, or takes its time in one direction more than in the other.

import { sleep } from "./time.ts";

export type NetworkFault = "request lost" | "answer lost" | "sent twice" | "late repeat" | "slow";
export const NETWORK_FAULTS: readonly NetworkFault[] = ["request lost", "answer lost", "sent twice", "late repeat", "slow"];

export class Network {
  private readonly next: { fault: NetworkFault; ms: number }[] = [];
  private offlineUntil = 0;

  constructor(private readonly url: string) {}

  /** The next request meets this. */
  fault(fault: NetworkFault, ms: number): void {
    this.next.push({ fault, ms });
  }
  offline(ms: number): void {
    this.offlineUntil = Math.max(this.offlineUntil, Date.now() + ms);
  }
  /** From now on everything arrives. */
  calm(): void {
    this.next.length = 0;
    this.offlineUntil = 0;
  }

  readonly fetch: typeof globalThis.fetch = async (input, init) => {
    if (Date.now() < this.offlineUntil) throw new TypeError("out of reach");
    const met = this.next.shift();
    const send = (): Promise<Response> => this.send(input instanceof Request ? input.url : input.toString(), init);
    switch (met?.fault) {
      case undefined:
        return send();
      case "request lost":
        throw new TypeError("request lost");
      case "answer lost":
        await (await send()).arrayBuffer();
        throw new TypeError("answer lost");
      case "sent twice":
        return (await Promise.all([send(), send()]))[1];
      case "late repeat":
        void sleep(met.ms)
          .then(send)
          .then((reply) => reply.arrayBuffer())
          .catch(() => undefined);
        return send();
      case "slow": {
        await sleep(met.ms * 0.8);
        const reply = await send();
        await sleep(met.ms * 0.2);
        return reply;
      }
    }
  };

  private send(where: string, init?: RequestInit): Promise<Response> {
    return fetch(`${this.url}${where}`, { ...init, headers: { ...(init?.headers as Record<string, string>), origin: this.url } });
  }
}
