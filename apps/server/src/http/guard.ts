// Who may talk to us: the Host must be ours (against DNS rebinding), a write's Origin must be the page's own, and no other site reads.

import type { MiddlewareHandler } from "hono";
import { isLoopback } from "../config.ts";
import { Refusal } from "./refusal.ts";

const hostName = (host: string): string =>
  host
    .replace(/:\d+$/, "")
    .replace(/^\[|\]$/g, "")
    .toLowerCase();

/** `host`: the address listened on. On loopback only loopback names pass; else the name as typed, which a passphrase protects. */
export function guard(host: string): MiddlewareHandler {
  return async (c, next) => {
    const sent = c.req.header("host") ?? "";
    const name = hostName(sent);
    if (isLoopback(host) && !isLoopback(name)) {
      throw new Refusal(403, "wrong-host", "Not an address of this server", "Open the address printed when the server started.");
    }
    if (!["GET", "HEAD"].includes(c.req.method)) checkOrigin(c.req.header("origin"), sent, c.req.path);
    const data = /^\/(api|intake)\//.test(c.req.path);
    if (data) refuseOtherSites(c.req.header("sec-fetch-site"));
    // Whatever the bytes are, an answer with data is never a page: nothing in it runs.
    if (data) c.header("content-security-policy", "default-src 'none'; sandbox");
    c.header("x-content-type-options", "nosniff");
    c.header("referrer-policy", "no-referrer");
    // A browser heeds this only where it trusts the origin, and warns elsewhere.
    if (isLoopback(name)) c.header("cross-origin-opener-policy", "same-origin");
    c.header("cross-origin-resource-policy", "same-origin");
    await next();
  };
}

/** A browser says which site asks; another one, or another port of this computer, reads nothing. Typed into the address line it is "none". */
function refuseOtherSites(site: string | undefined): void {
  if (site === undefined || site === "same-origin" || site === "none") return;
  throw new Refusal(403, "wrong-origin", "Not from this page", "Another site asked for this. Nothing was given out.");
}

/** Devices send no Origin and carry a token; a browser always sends one on a write. */
function checkOrigin(origin: string | undefined, host: string, path: string): void {
  if (origin === undefined && path.startsWith("/intake/")) return;
  if (origin === `http://${host}` || origin === `https://${host}`) return;
  throw new Refusal(403, "wrong-origin", "Not from this page", "A change must come from a page of this server. Nothing was changed.");
}
