// Where another device on the network reaches this server.

import os from "node:os";
import { isLoopback } from "../../config.ts";

/** Names to type or to scan, the likeliest first; empty when only this computer can connect. */
export function reachableAt(host: string, port: number): string[] {
  if (isLoopback(host)) return [];
  const wild = host === "0.0.0.0" || host === "::";
  const hosts = wild
    ? Object.values(os.networkInterfaces())
        .flatMap((list) => list ?? [])
        .filter((a) => !a.internal && a.family === "IPv4")
        .map((a) => a.address)
    : [host];
  return hosts.map((h) => `http://${h.includes(":") ? `[${h}]` : h}:${port}`);
}
