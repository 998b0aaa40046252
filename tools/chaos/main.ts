// npm run chaos -- --seed N --faults 1000: simulated testers press marks on several runs and devices while faults are drawn at random;
// then everything is let come to rest and it is proved that nothing was lost. The server is the built one, killed for real.

import { parseArgs } from "node:util";
import { randomFrom } from "@keep-rolling/core/statistics";
import type { StartBody } from "@keep-rolling/core/runs";
import { practiceStart } from "@keep-rolling/demo";
import { launchServer } from "../launch.ts";
import { Device } from "./device.ts";
import { Faults } from "./faults.ts";
import { prove, timeSummary } from "./prove.ts";
import { Testers } from "./testers.ts";
import { sleep } from "./time.ts";

const PRESSES_A_FAULT = 3;
const REST_SEC = 180;

async function main(): Promise<number> {
  const { values } = parseArgs({ options: { seed: { type: "string", default: "1" }, faults: { type: "string", default: "1000" } } });
  const [seed, faults] = [Number(values.seed), Number(values.faults)];
  if (!Number.isInteger(seed) || !Number.isInteger(faults) || faults < 1) throw new Error("--seed and --faults take whole numbers");
  const random = randomFrom(seed);
  const from = Date.now();
  const server = await launchServer({ empty: true, relaxed: false });
  try {
    const devices = ["desk", "phone", "tablet"].map((name) => new Device(name, server.url, random.int(-300_000, 300_000)));
    for (const device of devices) await device.openWindow();
    const testers = new Testers(devices, random, setup());
    const drawn = new Faults(devices, server, random);
    const beat = setInterval(() => devices.forEach((d) => d.beat()), 100);
    for (let i = 0; i < faults; i++) {
      await drawn.next();
      for (let k = 0; k < PRESSES_A_FAULT; k++) await testers.press();
      await sleep(random.int(5, 90));
      if ((i + 1) % 100 === 0) console.log(`${i + 1} faults, ${testers.pressed.size} marks pressed, ${sec(from)} s`);
    }
    const rested = await comeToRest(devices, drawn);
    clearInterval(beat);
    const wrong = rested
      ? await prove(server.url, devices, testers)
      : [`marks still wait after ${REST_SEC} s: ${devices.map((d) => `${d.name} ${d.waiting} ${d.waitingFor}`).join(", ")}`];
    report(seed, faults, from, testers, drawn, wrong);
    return wrong.length === 0 ? 0 : 1;
  } finally {
    await server.stop();
  }
}

async function comeToRest(devices: readonly Device[], drawn: Faults): Promise<boolean> {
  await drawn.over();
  for (const d of devices) d.network.calm();
  for (let i = 0; i < REST_SEC * 10; i++) {
    if (devices.every((d) => d.awake && d.waiting === 0 && !d.unkept)) return true;
    for (const d of devices) d.wake();
    await sleep(100);
  }
  return devices.every((d) => d.waiting === 0);
}

function report(seed: number, faults: number, from: number, testers: Testers, drawn: Faults, wrong: readonly string[]): void {
  for (const [fault, n] of [...drawn.counts].sort((a, b) => b[1] - a[1])) console.log(`  ${String(n).padStart(5)}  ${fault}`);
  console.log(timeSummary(testers));
  for (const sentence of wrong.slice(0, 30)) console.log(`WRONG: ${sentence}`);
  console.log(
    `seed ${seed}: ${faults} faults, ${testers.pressed.size} marks on ${testers.runIds.length} runs from 3 devices in ${sec(from)} s: ${wrong.length === 0 ? "nothing lost" : `${wrong.length} things wrong`}`,
  );
}

const sec = (from: number): number => Math.round((Date.now() - from) / 1000);

/** A real body on the real clock, of no make. */
function setup(): StartBody {
  const start = practiceStart({ clockId: "real" });
  return { ...start, unit: { ...start.unit, name: "Chaos body", simulated: false } };
}

main().then(
  (code) => process.exit(code),
  (error: unknown) => {
    console.error(error);
    process.exit(1);
  },
);
