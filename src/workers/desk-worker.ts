import { cleanupOutdatedCaches, type PrecacheEntry, precacheAndRoute } from "workbox-precaching";

/**
 * Keeps the desk on the device: its scripts, styles and fonts, and the page of each attempt that is open, so that a reload
 * without a network still shows the attempt. The journal brings what was written since.
 */

interface LastingEvent extends Event {
  waitUntil(promise: Promise<unknown>): void;
}
interface Route {
  readonly condition: { readonly urlPattern: { readonly pathname: string } };
  readonly source: "network";
}
interface InstallEvent extends LastingEvent {
  /** Not every browser has it. */
  addRoutes?(routes: Route): Promise<void>;
}
interface FetchEvent extends LastingEvent {
  readonly request: Request;
  respondWith(response: Promise<Response>): void;
}
interface KeepEvent extends LastingEvent {
  readonly data: { readonly keep?: string; readonly anew?: boolean } | null;
}
interface Worker {
  /** The list of files to keep: put in here by the build. */
  readonly __WB_MANIFEST: (PrecacheEntry | string)[];
  skipWaiting(): Promise<void>;
  readonly clients: { claim(): Promise<void> };
  addEventListener(type: "install", listener: (event: InstallEvent) => void): void;
  addEventListener(type: "activate", listener: (event: LastingEvent) => void): void;
  addEventListener(type: "fetch", listener: (event: FetchEvent) => void): void;
  addEventListener(type: "message", listener: (event: KeepEvent) => void): void;
}
declare const self: Worker;

const PAGES = "desk-pages";
const DESK = /^\/attempts\/[0-9a-f-]{36}$/;
/** A network that answers more slowly than this is as good as none. */
const PATIENCE = 8_000;

precacheAndRoute(self.__WB_MANIFEST);
cleanupOutdatedCaches();

self.addEventListener("install", (event) => {
  // What is saved, measured and heard never waits until this worker is awake.
  void event.addRoutes?.({ condition: { urlPattern: { pathname: "/api/*" } }, source: "network" });
  event.waitUntil(self.skipWaiting());
});
self.addEventListener("activate", (event) => event.waitUntil(self.clients.claim()));

/** Only a desk is kept: not the sign-in or the slip that a request for it may lead to. */
const isDesk = (response: Response) =>
  response.ok && !response.redirected && (response.headers.get("content-type") ?? "").startsWith("text/html");

async function keep(path: string, response: Response): Promise<void> {
  const cache = await caches.open(PAGES);
  if (isDesk(response)) await cache.put(path, response);
  else if (response.redirected) await cache.delete(path);
}

/** The kept page, marked so that the desk knows that its times are not of now. */
async function kept(path: string): Promise<Response | null> {
  const found = await (await caches.open(PAGES)).match(path);
  if (!found) return null;
  const html = (await found.text()).replace("<html", "<html data-kept");
  return new Response(html, { headers: found.headers });
}

async function deskPage(request: Request, path: string): Promise<Response> {
  const stored = (await caches.open(PAGES)).match(path);
  try {
    const response = await fetch(request, {
      // Without a page to fall back on, there is nothing to be impatient for.
      ...((await stored) ? { signal: AbortSignal.timeout(PATIENCE) } : {}),
    });
    await keep(path, response.clone());
    if (response.status >= 500) return (await kept(path)) ?? response;
    return response;
  } catch (error) {
    const page = await kept(path);
    if (page) return page;
    throw error;
  }
}

self.addEventListener("fetch", (event) => {
  const { request } = event;
  const { pathname, origin } = new URL(request.url);
  if (request.mode !== "navigate" || request.method !== "GET" || origin !== location.origin) return;
  if (DESK.test(pathname)) event.respondWith(deskPage(request, pathname));
});

self.addEventListener("message", (event) => {
  const path = event.data?.keep;
  if (!path || !DESK.test(path)) return;
  const fetchAnew = async () => {
    const known = await (await caches.open(PAGES)).match(path);
    if (known && !event.data?.anew) return;
    try {
      await keep(path, await fetch(path, { credentials: "same-origin" }));
    } catch {
      // Without a network the page that is kept stays.
    }
  };
  event.waitUntil(fetchAnew());
});
