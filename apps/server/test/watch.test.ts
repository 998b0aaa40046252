import { describe, expect, it } from "vitest";
import { targetOfDb } from "../src/db/connection.ts";
import { watchDatabase } from "../src/db/watch.ts";
import { freshDatabase } from "./bench.ts";

describe("the watch over a database", () => {
  it("lets one server keep clocks and stand-ins, and the next one when it is gone", async () => {
    const db = await freshDatabase();
    const target = targetOfDb(db);
    const never = (): never => {
      throw new Error("it does not hang");
    };
    const [first, second] = [watchDatabase(target, never), watchDatabase(target, never)];
    expect(await first.alone()).toBe(true);
    expect(await second.alone()).toBe(false);
    expect(await first.alone()).toBe(true);
    // Another database of the same server is another bench.
    const other = await freshDatabase();
    const third = watchDatabase(targetOfDb(other), never);
    expect(await third.alone()).toBe(true);
    await first.stop();
    const next = watchDatabase(target, never);
    expect(await next.alone()).toBe(true);
    await Promise.all([second.stop(), next.stop(), third.stop(), db.destroy(), other.destroy()]);
  });
});
