import { parseCookie, stringifySetCookie } from "cookie";
import { type Instant, SECOND } from "@/core/time/instants";
import { config } from "./config";

/** One cookie of a Cookie header, decoded; undefined when it is not there. */
export const cookieIn = (header: string | undefined, name: string): string | undefined =>
  header === undefined ? undefined : parseCookie(header)[name];

/** The name of a cookie of ours. Over TLS browsers take one of this name from this host alone, and only so. */
export const cookieName = (name: string): string => `${config.isSecure ? "__Host-" : ""}shizuka.${name}`;

/** The header that sets a cookie of ours, for so long in ms; null: until the browser is closed. */
export const setCookie = (name: string, value: string, lasts: Instant | null): string =>
  stringifySetCookie({
    name,
    value,
    path: "/",
    httpOnly: true,
    sameSite: "lax",
    secure: config.isSecure,
    ...(lasts === null ? {} : { maxAge: Math.floor(lasts / SECOND) }),
  });
