import { existsSync } from "node:fs";
import { installDebian, Stop, say } from "./steps.mjs";

const CHROMIUM = process.env.CHROMIUM ?? "/usr/bin/chromium";

/** Debian's Chromium, installed if need be; returns its path. */
export function ensureChromium() {
  if (existsSync(CHROMIUM)) return CHROMIUM;
  if (installDebian(["chromium"], say) && existsSync(CHROMIUM)) return CHROMIUM;
  throw new Stop("Chromium is missing. Install it with:  sudo apt-get install -y chromium");
}

/** How Chromium is started: without its conversations with the outside, and as root without its sandbox. */
export const CHROMIUM_ARGS = [
  ...(process.getuid?.() === 0 ? ["--no-sandbox"] : []),
  "--disable-gpu",
  "--disable-quic",
  "--no-first-run",
  "--disable-background-networking",
  "--disable-component-update",
  "--disable-sync",
];

/** The cookies of a header, as a browser takes them. */
export function browserCookies(url, cookie) {
  const { hostname } = new URL(url);
  return cookie.split("; ").map((each) => {
    const [name, ...value] = each.split("=");
    return { name, value: value.join("="), domain: hostname, path: "/" };
  });
}
