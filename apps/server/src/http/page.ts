// The built interface: files by hash for ever, the page itself with a fresh nonce and a policy that lets nothing in from outside.

import { randomBytes } from "node:crypto";
import { readFile } from "node:fs/promises";
import path from "node:path";
import { serveStatic } from "@hono/node-server/serve-static";
import type { Hono } from "hono";

const policy = (nonce: string): string =>
  [
    "default-src 'none'",
    // The clip workers' vector loops are our own file; no text is ever run as script.
    `script-src 'self' 'wasm-unsafe-eval' 'nonce-${nonce}'`,
    `style-src 'self' 'nonce-${nonce}'`,
    "img-src 'self' data: blob:",
    "media-src 'self' blob:",
    "font-src 'self'",
    "connect-src 'self'",
    "manifest-src 'self'",
    "worker-src 'self'",
    "base-uri 'none'",
    "form-action 'none'",
    "frame-ancestors 'none'",
  ].join("; ");

/** Any address that is neither a file nor an interface of the server is the page: its router decides. */
export function pageRoutes(app: Hono, webDir: string): void {
  const root = path.relative(process.cwd(), path.resolve(webDir)) || ".";
  app.use("/assets/*", async (c, next) => {
    await next();
    if (c.res.ok) c.header("cache-control", "public, max-age=31536000, immutable");
  });
  app.use("/assets/*", serveStatic({ root, precompressed: true }));
  app.get("/icon.svg", serveStatic({ root }));
  // The service worker must be asked for each time, or an old one would stay.
  for (const file of ["/sw.js", "/manifest.webmanifest"]) {
    app.get(file, async (c, next) => {
      await next();
      c.header("cache-control", "no-cache");
    });
    app.get(file, serveStatic({ root }));
  }
  app.get("*", async (c) => {
    if (/^\/(api|intake|assets)\/|^\/sw\.js$/.test(c.req.path)) return c.notFound();
    const nonce = randomBytes(16).toString("base64");
    const page = (await readFile(path.join(webDir, "index.html"), "utf8")).replaceAll("__NONCE__", nonce);
    c.header("content-security-policy", policy(nonce));
    c.header("cache-control", "no-store");
    return c.html(page);
  });
}
