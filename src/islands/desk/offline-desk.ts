/** What the device keeps beside the journal so that the desk comes back without a network: its page, and the time. */

const PAGES = "desk-pages";
const OFFSET = "shizuka-clock-offset";

/** Whether this page came from the device, because the server could not be reached. */
export const isOfflineCopy = (): boolean =>
  typeof document !== "undefined" && document.documentElement.dataset.kept !== undefined;

/** How far the device's clock is from the server's, as it was measured last. */
export function storedOffset(): number {
  try {
    return Number(localStorage.getItem(OFFSET) ?? 0);
  } catch {
    return 0;
  }
}

export function noteOffset(offset: number): void {
  try {
    localStorage.setItem(OFFSET, String(Math.round(offset)));
  } catch {
    // Without storage there is no kept desk either.
  }
}

/** The question that was on this tab's screen, for its next load; null when it had none. */
export function notedHere(attemptId: string): number | null {
  try {
    return Number(sessionStorage.getItem(`here ${attemptId}`)) || null;
  } catch {
    return null;
  }
}

/**
 * Notes which question is on the screen: for this window, and for the server, which makes the page with it after a reload,
 * so that nothing changes once it stands there.
 */
export function noteHere(attemptId: string, here: number): void {
  const isSecure = location.protocol === "https:" ? "; secure" : "";
  // biome-ignore lint/suspicious/noDocumentCookie: the other way to set one is not in every browser
  document.cookie = `here=${here}; path=/attempts/${attemptId}; max-age=86400; samesite=lax${isSecure}`;
  try {
    sessionStorage.setItem(`here ${attemptId}`, String(here));
  } catch {
    // Then the server's word is taken.
  }
}

/** Sets up the worker that keeps the desk's page; where the browser has none, nothing is kept. */
export async function setUpOfflineDesk(): Promise<void> {
  try {
    await navigator.serviceWorker?.register("/desk-worker.js");
  } catch {
    // Not a reason to bother anybody: the journal keeps the answers all the same.
  }
}

/** Keeps the desk's page; `anew` as the server would send it now, else only if it is not kept yet. */
export function storeDesk(attemptId: string, anew = false): void {
  if (typeof navigator === "undefined" || !("serviceWorker" in navigator)) return;
  void setUpOfflineDesk()
    .then(() => navigator.serviceWorker.ready)
    .then((registration) => registration.active?.postMessage({ keep: `/attempts/${attemptId}`, anew }));
}

/** Forgets the page of an attempt that is over. */
export async function forgetOfflineDesk(attemptId: string): Promise<void> {
  try {
    await (await caches.open(PAGES)).delete(`/attempts/${attemptId}`);
  } catch {
    // Nothing was kept.
  }
}

/** Forgets every kept page: on signing out, on a device that others use too. */
export async function forgetOfflineDesks(): Promise<void> {
  try {
    await caches.delete(PAGES);
  } catch {
    // Nothing was kept.
  }
}
