// Another client beside the strangers, in a thread of its own so that their work does not count as the server's: it presses marks and asks, and times the answers.

import { randomUUID } from "node:crypto";
import { parentPort, workerData } from "node:worker_threads";

const { url, template, everyMs } = workerData;
const pressed = [];
const askedMs = [];
const pressedMs = [];
let over = false;
parentPort.once("message", () => (over = true));
const pause = (ms) => new Promise((done) => setTimeout(done, ms));
const timed = async (into, work) => {
  const from = performance.now();
  await work();
  into.push(performance.now() - from);
};

async function press(seq) {
  const mark = { ...template, id: randomUUID(), deviceSeq: seq, atMs: template.atMs + seq, madeAtMs: template.atMs + seq };
  const batch = { deviceId: template.deviceId, sentDeviceMs: Date.now(), offsetMs: 0, marks: [mark] };
  const reply = await fetch(`${url}/api/marks`, {
    method: "POST",
    headers: { "content-type": "application/json", origin: url },
    body: JSON.stringify(batch),
  });
  const { outcomes } = await reply.json();
  if (outcomes?.[0]?.outcome === "stored") pressed.push(mark.id);
  else parentPort.postMessage({ refused: `${reply.status} ${JSON.stringify(outcomes)}` });
}

let seq = template.deviceSeq;
while (!over) {
  await timed(askedMs, async () => (await fetch(`${url}/api/clocks`)).arrayBuffer());
  await timed(pressedMs, () => press(++seq));
  await pause(everyMs);
}
parentPort.postMessage({ pressed, askedMs, pressedMs });
