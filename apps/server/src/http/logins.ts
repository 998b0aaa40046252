// Who has been let in beyond loopback: a row a device. The cookie holds a random token, the row its hash and a proof that the passphrase of today opened it,
// so that a copy of the database opens nothing, and another passphrase ends every login of the old one.

import { createHash, createHmac, randomBytes } from "node:crypto";
import { v7 as uuidv7 } from "uuid";
import type { Db } from "../db/connection.ts";
import type { Step } from "../db/step.ts";

export const GOOD_FOR_MS = 30 * 86_400_000;
/** A login that was ended elsewhere is noticed within this. */
const LOOK_AGAIN_MS = 5000;
/** "Last seen" is written no oftener. */
const SEEN_EVERY_MS = 5 * 60_000;
const KNOWN_MOST = 500;

export const loginSteps: readonly Step[] = [
  {
    name: "059-login",
    up: `create table if not exists login (
      id uuid primary key, token_sha char(64) not null unique comment 'sha256 of the cookie''s token', proof char(64) not null comment 'of the passphrase, by the token',
      label varchar(60) not null comment 'browser and system', address varchar(64) not null, since_ms bigint not null, seen_ms bigint not null,
      ended_ms bigint null
    ) comment 'devices let in by the passphrase or a code'`,
    down: "drop table if exists login",
  },
];

export interface Login {
  id: string;
  label: string;
  address: string;
  sinceMs: number;
  seenMs: number;
}
interface Row {
  id: string;
  token_sha: string;
  proof: string;
  label: string;
  address: string;
  since_ms: number;
  seen_ms: number;
  ended_ms: number | null;
}

export interface Logins {
  /** The new cookie's token. */
  begin(about: { label: string; address: string }): Promise<string>;
  /** The login of this token, or null. */
  of(token: string | undefined): Promise<Login | null>;
  list(): Promise<Login[]>;
  end(id: string): Promise<void>;
  /** All but this one. */
  endOthers(keep: string): Promise<void>;
}

const shaOf = (token: string): string => createHash("sha256").update(token).digest("hex");
const toLogin = (r: Row): Login => ({ id: r.id, label: r.label, address: r.address, sinceMs: r.since_ms, seenMs: r.seen_ms });

export function loginsOf(db: Db, passphrase: string, now: () => number): Logins {
  const proofOf = (token: string): string => createHmac("sha256", token).update(passphrase).digest("hex");
  const known = new Map<string, { row: Row | null; readMs: number }>();
  const open = () =>
    db<Row>("login")
      .whereNull("ended_ms")
      .andWhere("since_ms", ">", now() - GOOD_FOR_MS);
  /** What holds was looked up a moment ago, or is looked up now. */
  const rowOf = async (token: string): Promise<Row | null> => {
    const sha = shaOf(token);
    const remembered = known.get(sha);
    if (remembered !== undefined && Math.abs(now() - remembered.readMs) < LOOK_AGAIN_MS) return remembered.row;
    const row = (await open().andWhere({ token_sha: sha }).first()) ?? null;
    if (known.size >= KNOWN_MOST) known.clear();
    known.set(sha, { row, readMs: now() });
    return row;
  };
  return {
    begin: async ({ label, address }) => {
      const token = randomBytes(32).toString("base64url");
      const nowMs = now();
      await db("login")
        .where("since_ms", "<", nowMs - GOOD_FOR_MS)
        .delete();
      await db("login").insert({
        id: uuidv7(),
        token_sha: shaOf(token),
        proof: proofOf(token),
        label,
        address,
        since_ms: nowMs,
        seen_ms: nowMs,
      });
      return token;
    },
    of: async (token) => {
      if (token === undefined || token.length > 100) return null;
      const row = await rowOf(token);
      if (row?.proof !== proofOf(token)) return null;
      if (now() - row.seen_ms > SEEN_EVERY_MS) {
        row.seen_ms = now();
        await db("login").where({ id: row.id }).update({ seen_ms: row.seen_ms });
      }
      return toLogin(row);
    },
    list: async () => (await open().orderBy("seen_ms", "desc").limit(200)).map(toLogin),
    end: async (id) => {
      await db("login").where({ id }).whereNull("ended_ms").update({ ended_ms: now() });
      known.clear();
    },
    endOthers: async (keep) => {
      await db("login").whereNull("ended_ms").andWhereNot({ id: keep }).update({ ended_ms: now() });
      known.clear();
    },
  };
}

const BROWSERS = [
  ["Firefox", /Firefox|FxiOS/],
  ["Edge", /Edg/],
  ["Chrome", /Chrome|CriOS/],
  ["Safari", /Safari/],
] as const;
const SYSTEMS = [
  ["iPhone", /iPhone/],
  ["iPad", /iPad/],
  ["Android", /Android/],
  ["Windows", /Windows/],
  ["a Mac", /Mac OS/],
  ["Linux", /Linux/],
] as const;

/** "Chrome on Android"; never the header itself, which can be anything. */
export function labelOf(userAgent: string | undefined): string {
  const of = (list: readonly (readonly [string, RegExp])[]): string | undefined => list.find(([, is]) => is.test(userAgent ?? ""))?.[0];
  const [browser, system] = [of(BROWSERS), of(SYSTEMS)];
  return browser === undefined && system === undefined ? "a device" : `${browser ?? "a browser"} on ${system ?? "a device"}`;
}
