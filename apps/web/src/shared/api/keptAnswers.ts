// Which answers a reload without the server is given: one rule for the service worker (vite.config.ts), and for the page, that keeps them
// itself until the worker does.

/** The store of the browser they lie in. */
export const KEPT_IN = "answers";

/** Answers that change by themselves (time, pulse, stream), archives and small copies of clips are never kept. */
export const KEPT = /^https?:\/\/[^/]+\/api\/(?!(time|pulse|stream|archive|session|pair|pairing)(\/|\?|$)|walks\/(proxies|decode)\/)/;

/** True when a service worker answers for this page. */
export const isControlled = (): boolean => "serviceWorker" in navigator && navigator.serviceWorker.controller !== null;

/** Asks the server, as `fetch`; a good answer is kept on the device while no service worker does so. */
export async function askAndKeep(input: RequestInfo | URL, init?: RequestInit): Promise<Response> {
  const reply = await fetch(input, init);
  if (reply.ok && input instanceof Request && input.method === "GET" && KEPT.test(input.url) && "caches" in globalThis && !isControlled())
    keep(input.url, reply.clone());
  return reply;
}

/** Without room everything works but a reload without the server. */
const keep = (url: string, reply: Response): void =>
  void caches
    .open(KEPT_IN)
    .then((kept) => kept.put(url, reply))
    .catch(() => undefined);

/** On a device that is not let in nothing stays of what it was answered before. */
export function forgetKept(): void {
  if ("caches" in globalThis) caches.delete(KEPT_IN).catch(() => undefined);
}
