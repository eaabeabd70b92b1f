import { type Instant, SECOND } from "@/core/time/instants";
import { config } from "./config";

/** One cookie of a Cookie header, decoded; undefined when it is not there or cannot be decoded. */
export function cookieIn(header: string | undefined, name: string): string | undefined {
  const found = header?.split(/;\s*/).find((each) => each.startsWith(`${name}=`));
  try {
    return found && decodeURIComponent(found.slice(name.length + 1));
  } catch {
    return undefined;
  }
}

/** The name of a cookie of ours. Over TLS browsers take one of this name from this host alone, and only so. */
export const cookieName = (name: string): string => `${config.isSecure ? "__Host-" : ""}shizuka.${name}`;

/** How a cookie of ours is set, kept for so long; null: until the browser is closed. */
export const cookieAttributes = (lasts: Instant | null): string =>
  [
    "Path=/",
    "HttpOnly",
    "SameSite=Lax",
    ...(config.isSecure ? ["Secure"] : []),
    ...(lasts === null ? [] : [`Max-Age=${Math.floor(lasts / SECOND)}`]),
  ].join("; ");
