import { SECOND } from "@/core/time/instants";
import { now } from "../base/clock";

/** A desk goes on without a network for so long at the most, in seconds. */
const LONGEST = 24 * 3_600;

interface Sent {
  readonly type: string;
  readonly bytes: Uint8Array;
  readonly lastsUntil: number | null;
}

/**
 * A picture, a sound or a film of a question that may be seen. It never changes within an attempt, so its name is its mark.
 * A running desk keeps it until the end; else whoever asks on the same machine may be somebody else, so each use is asked
 * for. Players ask for a part of it first.
 */
export function mediaResponse(request: Request, name: string, { type, bytes, lastsUntil }: Sent): Response {
  const etag = `"${name}"`;
  const seconds = lastsUntil === null ? 0 : Math.floor((lastsUntil - now()) / SECOND);
  const headers = {
    etag,
    "content-type": type,
    "accept-ranges": "bytes",
    "content-security-policy": "sandbox; default-src 'none'; style-src 'unsafe-inline'; media-src 'self'",
    "cache-control": seconds > 0 ? `private, max-age=${Math.min(seconds, LONGEST)}` : "private, no-cache",
  };
  if (request.headers.get("if-none-match") === etag) return new Response(null, { status: 304, headers });
  const asked = request.headers.get("range");
  if (asked === null) return new Response(new Uint8Array(bytes), { headers });
  const range = rangeOf(asked, bytes.length);
  if (range === null)
    return new Response(null, {
      status: 416,
      headers: { ...headers, "content-range": `bytes */${bytes.length}` },
    });
  const { first, last } = range;
  return new Response(new Uint8Array(bytes.subarray(first, last + 1)), {
    status: 206,
    headers: { ...headers, "content-range": `bytes ${first}-${last}/${bytes.length}` },
  });
}

/** The first and the last byte of the one range that is asked for; null where there are no such bytes. */
export function rangeOf(asked: string, length: number): { first: number; last: number } | null {
  const [, from = "", to = ""] = /^bytes=(\d*)-(\d*)$/.exec(asked.trim()) ?? [];
  if (from === "" && to === "") return null;
  // "-500" is the last five hundred bytes.
  const first = from === "" ? Math.max(0, length - Number(to)) : Number(from);
  const last = from === "" || to === "" ? length - 1 : Math.min(Number(to), length - 1);
  return first <= last && first < length ? { first, last } : null;
}
